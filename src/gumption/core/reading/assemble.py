"""Pieces put together: every way in which the pieces of a question make one meaning, each with what speaks for it."""

from __future__ import annotations

import dataclasses
import datetime as dt
import functools
import heapq
import itertools
import math
import re
import unicodedata
from collections.abc import Container, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal, TypeAlias, TypeGuard, TypeVar

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.types import Role, Type
from gumption.core.model.wish import ChartWish
from gumption.core.plan.words import DAY_NAMES
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.accounts import runs_on
from gumption.core.reading.before_after import before_and_after
from gumption.core.reading.besides import (
    ordered_by_groups,
    over_time_on_two_axes,
    with_ends_of_tiles,
    with_their_counts,
)
from gumption.core.reading.changes import is_time
from gumption.core.reading.derived import DECIDED, DOCKETS, PROMISED, is_birth, may_be_stock, trade
from gumption.core.reading.ends import over_time, unit_of
from gumption.core.reading.flow import event_time, is_since, last_day, lowest_table, names_rows
from gumption.core.reading.glossing import leaves, pieces_of
from gumption.core.reading.grammar import Chart, Edge, Grammar
from gumption.core.reading.items import holding_all
from gumption.core.reading.leading import as_condition, whose_end_was, within_bounds
from gumption.core.reading.parts_beside import parts_beside
from gumption.core.reading.pieces import (
    SEVERAL,
    Asking,
    Axis,
    Basis,
    Beside,
    Bounded,
    Charted,
    Counted,
    Did,
    Direction,
    EndWas,
    Function,
    Grouped,
    Held,
    InEvery,
    Joined,
    Kinds,
    Laid,
    Lapsed,
    Leading,
    Listing,
    Marker,
    Measured,
    Moment,
    Moved,
    Never,
    Noun,
    OfTop,
    Part,
    Rated,
    Ratio,
    Reached,
    Shared,
    Shown,
    Some,
    Sorted,
    Stepped,
    Told,
    Top,
    Versus,
    Worked,
    Worth,
)
from gumption.core.reading.plainly import is_participle
from gumption.core.reading.planned import came as plan_came
from gumption.core.reading.planned import is_plan
from gumption.core.reading.rules.groups import comes_again
from gumption.core.reading.schema import GROUND, KIND_ROLES, PAYING, STUFF, Nouns, holds_names, tables_of
from gumption.core.reading.stacking import is_long, rows_of_periods, stacked, with_columns_in_rows
from gumption.core.reading.times import MONTHS_IN, UNITS, Span, are_whole_years, in_year, months_later, unit_span
from gumption.core.reading.tokens import CURRENCIES, Token, stem, stems
from gumption.core.reading.vocabulary import (
    BIRTH,
    GENERIC_MONEY,
    PAID_FOR_THEM,
    PERSON_WORDS,
    PLANNED,
    name_parts,
    word_stems,
)

TOPS = frozenset(
    [
        "Q",
        "E",
        "CNT",
        "CNTX",
        "K",
        "G",
        "TOP",
        "TOPX",
        "DIR",
        "ORD",
        "SHR",
        "SHRX",
        "BES",
        "CHT",
        "QX",
        "SHF",
        "ASK",
        "MRK",
        "NP",
        "RATIO",
        "FN",
        "VERSUS_",
        "MORE",
        "NPX",
        "BESX",
        "KDX",
        "KB",
        "H",
        "MOVED",
        "NEVER",
        "RATED",
        "SOME",
        "MET",
        "TOLDIN",
        "STK",
        "WORTH",
        "ED",
    ]
)
P = TypeVar("P")
BEAM = 28
SEQUENCES = 24
MOST_ALIKE = 8
"""Ways to cover the words that differ only in which columns are meant."""
BEHIND = 0.4
"""How far behind the others a meaning may be and still come before them by what the data say of it."""
APART_COST = 0.25
"""What a piece costs whose table nothing joins to those of the pieces before it."""
MOST_KNOWN = 20_000
"""Pieces whose tables are remembered from question to question."""
_NO_TABLES: frozenset[str] = frozenset()
_State: TypeAlias = tuple[float, tuple[Edge, ...], tuple[int, ...], frozenset[str], tuple[tuple[str, int, int], ...]]
"""A score, the pieces, the places that are not read, the tables, and which words make which kinds of piece."""
LONG_AGO = dt.date.min
_HELD_BY = frozenset(["of", "at", "in", "for", "from", "by", "with", "to", "under", "on"])
"""What joins those that something is asked of to it."""
_EACH_OF = frozenset(["each", "every", "per"])
_GOING_ON = frozenset(
    ["open", "active", "ongoing", "unfinished", "outstanding", "current", "running", "pending", "unresolved"]
)
_OVER_TIME = frozenset(["over", "time"])
_PEOPLE = frozenset(stem(w) for w in ["people", "persons", "person", "folks"])
_MEASURING = (Counted, Measured, Rated, Ratio, Shared)
_WORKED_OUT = frozenset(
    [Worked, Joined, Counted, Grouped, Top, Shared, Beside, Ratio, Function, Versus, Rated, OfTop, Stepped]
)
"""Pieces of questions whose answer is worked out, and no list of rows."""
_SO_OFTEN = frozenset(["most", "least"])
_SO_MANY = frozenset(["most", "fewest"])
_KINDS_TOO = frozenset(["new", "other", "open", "full", "current", "existing", "regular", "single", "main", "general"])
"""Small words that say much where a value is called so."""
_SOME_PEOPLE = frozenset(["people", "persons", "individuals"])
_HOW_OFTEN = frozenset(["often", "frequently"])
_ENDING = frozenset(stem(w) for w in ["close", "closed", "closing", "decided", "decision", "won", "ended", "outcome"])
_LIKED = frozenset(["popular", "popularest", "demand", "wanted"])
_SIDE_BY_SIDE = frozenset(["and", "&", ",", "plus", "the", "also", "or", "/"])
_BUSY = frozenset(["busy", "busier", "busiest", "quiet", "quieter", "quietest"])
_RANKING = frozenset(["best", "worst", "top", "bottom", "leading"])
_LAST_OF_ALL = frozenset(["worst", "bottom"])
_DOING_ENDS = ("ion", "ions", "al", "als", "ment", "ments", "ery", "eries")
_DONE = frozenset(
    stem(w)
    for w in [
        "completed", "closed", "settled", "resolved", "delivered", "finished", "fixed", "repaired", "answered", "done",
        "shipped", "dispatched", "arrived", "discharged",
    ]
)  # fmt: skip
"""Ends of what is the better the sooner it is over."""
_LINES = frozenset(stem(w) for w in ["lines", "rows", "items", "products"])
"""What the lines of an order are called, where they are meant and not the orders."""
JUDGING = frozenset(["best", "worst", "poorest", "weakest"])
_JUDGED = JUDGING | {"top", "bottom"}
_MANNER = frozenset(["via", "by", "at", "on", "in", "from", "to", "through"])
_APART = frozenset(["different", "distinct", "unique", "kinds", "types", "sorts", "various"])
_DOINGS = frozenset(
    stem(w)
    for w in [
        "trip", "journey", "visit", "call", "booking", "order", "appointment", "session", "sailing", "crossing", "flight", "lesson",
        "treatment", "procedure", "delivery", "collection", "sale", "purchase", "payment", "repair", "inspection", "test", "job",
        "task", "incident", "accident", "complaint", "claim", "loan", "rental", "hire", "event", "performance", "screening", "match",
    ]
)  # fmt: skip
"""What is done or happens each time anew, whatever kinds of it a column tells."""
_GAINS = frozenset(
    stem(w)
    for w in [
        "medal",
        "award",
        "prize",
        "bonus",
        "trophy",
        "honour",
        "card",
        "penalty",
        "discount",
        "voucher",
        "offer",
        "upgrade",
    ]
)
"""What is given to few, whatever kinds of it a column tells."""
_OF_A_HUNDRED = frozenset(stem(w) for w in ["probability", "percent", "percentage", "chance", "likelihood"])
_IN_ALL = frozenset(["total", "overall", "combined"])
_PERCENT = frozenset(["%", "percent", "pct"])
_PERIODS = 50
"""About how many periods rows are told by, where it is not known."""
_FAR_BELOW = 0.2
"""Of what a group comes to: a number that is less of it bounds no totals."""
_USUAL = frozenset(["average", "mean", "typical", "avg"])
_KEEPING_THEM = frozenset(["run", "use", "own", "have", "offer", "keep", "operate", "manage", "employ"])
_ATTENDED = frozenset(stem(w) for w in ["attended", "present", "came", "showed"])
_ATTENDANCE = frozenset(["attendance", "attendances", "turnout"])
_BEEN = frozenset(["been", "went", "gone", "came", "come", "attended", "attend", "present"])
_COMING = frozenset(["came", "come", "attended", "attend", "turned", "showed", "there", "present"])
_PRESENT = frozenset(
    stem(w) for w in ["attended", "attendance", "attendees", "present", "visitors", "guests", "participants", "turnout"]
)
"""What a column is called that says how many came."""
_PERFORMANCE = frozenset(stem(w) for w in ["mark", "score", "exam", "test", "gpa", "result", "rating", "points"])
"""What somebody achieved, as columns are called."""
_FARING = frozenset(["better", "worse", "well", "badly"])
"""How things go for somebody."""
_HOLDING = frozenset(["have", "got", "hold", "holds", "stock", "carry"])
_STOCK = frozenset(stem(w) for w in ["stock", "hand", "quantity", "qty", "inventory"])
_SINGLE = frozenset(["a", "an", "any", "one", "single", "each", "every"])
_JOINING = frozenset(
    [",", ";", ":", "&", "+", "/", "and", "plus", "with", "also", "well", "versus", "vs", "or", "then"]
)
_SERVED = frozenset(
    [
        "booked",
        "books",
        "cancelled",
        "cancels",
        "came",
        "comes",
        "visited",
        "visits",
        "attended",
        "attends",
        "complained",
        "complains",
        "owe",
        "owes",
        "owed",
        "owing",
        "pay",
        "pays",
        "paid",
        "spend",
        "spends",
        "spent",
        "buy",
        "buys",
        "bought",
        "order",
        "orders",
        "ordered",
    ]
)
"""What is done by those who are served and pay, not by those who work there."""
_DOING = frozenset(
    ["handles", "handle", "handled", "does", "did", "made", "makes", "works", "worked", "runs", "ran", "printed", "took",
     "brewed", "served", "sold", "wrote", "taught", "built", "fixed", "recorded", "processed", "completed", "manages",
     "closed", "close", "closes", "resolved", "resolves", "solved", "solves", "answered", "answers", "dealt", "deals",
     "finishes", "finish", "finished", "delivered", "delivers", "drove", "drives", "repaired", "inspected", "cleaned", "managed", "treated", "packed"]
)  # fmt: skip
"""What is done by those who work there, not by those who buy."""
_COUNTS = frozenset(["number", "count", "no"])
"""What says that a total is how many there are."""
_OF_SIZE = frozenset(["big", "bigger", "biggest", "large", "larger", "largest", "small", "smaller", "smallest"])
_HAS = frozenset(["has", "have", "had", "owns", "own", "owned", "holds", "held", "keeps", "kept"])
_MOST = (("the",), ("most",), ("fewest",), ("more",))
_ENDS = frozenset(["highest", "largest", "biggest", "greatest", "lowest", "smallest"])
_TOGETHER = frozenset(
    [
        "sales",
        "income",
        "revenue",
        "turnover",
        "takings",
        "profit",
        "profits",
        "earnings",
        "spend",
        "spending",
        "total",
        "overall",
    ]
)
"""What is thought of as what all comes to."""
_GAINING = frozenset(
    ["gained", "gain", "gains", "added", "lost", "lose", "loses", "biggest", "largest", "smallest", "dropped", "drop",
     "increase", "rise", "decrease", "fall", "most"]
)  # fmt: skip
"""What says that a change is told by how much there is more or less, and not in per cent of what there was."""
_RELATIVELY = frozenset(
    ["fastest", "quickest", "slowest", "percent", "%", "percentage", "rate", "relative", "relatively", "grew", "growth",
     "grown", "growing", "grow", "proportionally", "pct"]
)  # fmt: skip
SEVERAL_OF_EACH = 3
_TIMES = {
    "month": frozenset(["months"]),
    "month_of_year": frozenset(["months"]),
    "week": frozenset(["weeks"]),
    "weekday": frozenset(["weekdays", "days"]),
    "day": frozenset(["days", "dates"]),
    "year": frozenset(["years"]),
    "quarter": frozenset(["quarters"]),
    "hour": frozenset(["hours", "times"]),
}
"""What several times of each kind are called."""
_ONE_AND_MANY = frozenset(["species", "series", "news", "means", "always", "sales"])
_MANY = frozenset(["children", "men", "women", "staff", "sheep", "cattle", "fish", "livestock", "kit", "stock", "crew"])
"""Plurals that do not look like one."""
_COMPARING = frozenset(
    ["compare", "compared", "comparing", "comparison", "vs", "versus", "against", "difference", "change", "changed",
     "than", "between", "from", "both", "grew", "growth", "rose", "fell", "increase", "decrease", "v", "side", "beside"]
)  # fmt: skip
_SCALES = ((("billions?", "bn"), 1e9), (("millions?", "mn?", "mio"), 1e6), (("thousands?", "000s?", "k"), 1e3))
"""What the numbers of a column may be told in."""
_YEARLY = frozenset(["yoy", "annual", "annually", "yearly", "year-on-year"])
_ON_YEARS = ("year on year", "year before", "previous year", "prior year", "preceding year", "year over year")
_GROWING = frozenset(stem(w) for w in ["grew", "grow", "growing", "grown", "shrank", "shrink", "shrinking", "shrunk"])
POPULATION = frozenset(stem(w) for w in ["population", "people", "persons", "inhabitants", "residents"])
"""What a place has more of when it grows."""
_ONE_BY_ONE = frozenset(["mom", "yoy", "qoq", "wow", "dod", "delta", "deltas", "movement", "swing"])
"""Words for a change from one time to the next."""
KNOWN_OTHERWISE = 0.1
"""How well a word that names something here is linked to rows by another word."""
MOST_KINDS = 40
"""Values that a column of kinds may have for them to be split once more."""
MOST_NAMED = 6
"""Values that may be named one by one and are each told by itself."""
_ONE_OF = frozenset(["a", "an", "one", "each", "every", "any", "no"])
_HALF_NAMED = 0.62
"""How well words name a column of which only the last is its own."""
_NOT_DONE = frozenset(
    ["not", "never", "haven't", "hasn't", "havent", "hasnt", "didn't", "didnt", "don't", "weren't", "wasn't"]
)
_ABLE = frozenset(
    [
        "can",
        "can't",
        "cant",
        "cannot",
        "able",
        "unable",
        "trained",
        "qualified",
        "certified",
        "licensed",
        "skilled",
        "competent",
    ]
)
"""What people are said to be who may do something, whether or not they did it."""
_NOT_ABLE = frozenset(["can't", "cant", "cannot", "unable", "not"])
_COUNTING = frozenset(["many", "number", "count", "often", "rows", "readings", "measurements", "times"])
_TRENDING = frozenset(["trend", "trends", "trending"])
_SURELY_SO = 0.7
"""How sure a column is at least that people are asked for by."""
_SORTS = frozenset(["type", "types", "kind", "kinds", "sort", "sorts", "category", "categories"])
_DAYS = frozenset(["day", "days", "nights", "night"])
_USED_UP = frozenset(["usage", "used", "use", "consumption", "consumed"])
_PIECES = frozenset(["item", "items", "piece", "pieces", "unit", "units", "garments", "articles"])
_OFFERED = frozenset(["offer", "offered", "stock", "list", "sell", "carry", "have", "there"])
"""What is offered is so many kinds of things, and no pieces of them."""
_GOODS = frozenset(["item", "product", "article", "goods", "garment", "dish", "drink", "sku", "merchandise", "ware"])
_SOLD = frozenset(["sell", "sold", "sells", "selling", "buy", "bought", "buys", "order", "ordered", "used", "use"])
_KINDS_OF_DOINGS = frozenset(
    stem(w)
    for w in ["category", "type", "kind", "reason", "cause", "issue", "problem", "fault", "purpose", "subject", "topic"]
)
"""Names of columns that say what happened on a row."""
_SAID_OF_ANY = frozenset(
    stem(w) for w in ["amount", "total", "date", "day", "on", "at", "time", "value", "number", "net", "gross"]
)
"""Words of names that tell no measure or date from others."""
_ALIKE = frozenset(["or", "either", "together", "combined", "overall", "both", "altogether"])
_FINENESS = ("hour", "day", "weekday", "week", "month", "month_of_year", "quarter", "quarter_of_year", "year")
_WEIGHT_FILLER, _WEIGHT_CHATTER = 0.12, 0.35


@dataclass(frozen=True)
class Sequence_:
    """Pieces that do not overlap, in order, and the places of words that none of them reads."""

    edges: tuple[Edge, ...]
    unread: tuple[int, ...]
    score: float


@dataclass(frozen=True)
class Candidate:
    """One meaning of a question, with what speaks for and against it."""

    ask: m.Ask
    edges: tuple[Edge, ...]
    unread: tuple[int, ...]
    features: tuple[tuple[str, float], ...]
    score: float
    follows: bool = False


@dataclass
class Bar:
    """How good a meaning has to be to matter beside those that were found already."""

    most: int | None
    """So many meanings matter, and those little behind the last of them: the data are still to speak. None for all."""
    patience: int | None = None
    """Tries in a row that may bring nothing that matters more. None for any number."""
    floor: float = -math.inf
    left_out: bool = False
    """True once something was below it."""
    in_vain: int = 0
    """Tries in a row that brought nothing that matters more."""

    def is_settled(self) -> bool:
        """True where so much was tried in vain that nothing better is waited for."""
        settled = self.patience is not None and self.in_vain >= self.patience
        self.left_out |= settled
        return settled

    def is_above(self, score: float) -> bool:
        """True where what has such a score, or can have no better one, does not matter."""
        self.left_out |= score < self.floor
        return score < self.floor

    def raise_to(self, found: Iterable[Candidate]) -> None:
        """From here on only what may pass one of the best of these is looked for."""
        scores = heapq.nlargest(self.most, (c.score for c in found)) if self.most is not None else []
        before = self.floor
        if scores and len(scores) == self.most:
            self.floor = scores[-1] - BEHIND
        self.in_vain = self.in_vain + 1 if self.floor == before > -math.inf else 0


def word_weight(token: Token) -> float:
    """How much a word counts: little for small words and chatter."""
    if token.kind == "symbol":
        return 0.05
    if token.kind == "quoted":
        # What is quoted is meant, however small a word it is.
        return 1.0
    if token.lower in lexicon.fillers() and not token.meant:
        return _WEIGHT_FILLER
    if token.lower in lexicon.chatter():
        return _WEIGHT_CHATTER
    return 1.0


def is_skipped(token: Token) -> bool:
    """True for a word that rules pass over between their elements."""
    return word_weight(token) <= _WEIGHT_FILLER and token.lower not in lexicon.prepositions()


def chart_of(tokens: Sequence[Token], terminals: Iterable[Edge], grammar: Grammar) -> Chart:
    """Every edge over a question's words."""
    # A name that is written like a small word is none: US, IT.
    words = [t.text if t.meant and t.text.isupper() else t.lower for t in tokens]
    edges = list(terminals)
    # New appointments are those of which it says so, where a column tells the new from the others.
    told = {e.start for e in edges if e.category == "V" and e.score >= 0.95 and e.end == e.start + 1}
    kinds = [p in told and t.lower in _KINDS_TOO for p, t in enumerate(tokens)]
    chart = Chart(grammar, words, [is_skipped(t) and not kind for t, kind in zip(tokens, kinds, strict=True)])
    chart.run(edges)
    return chart


class Apart:
    """Which tables nothing joins, so that pieces of both seldom belong together."""

    def __init__(self, catalogue: Catalogue) -> None:
        # Two tables are joined where some row leads to both.
        ends_of = catalogue.reach().values()
        self._joined = {frozenset(pair) for ends in ends_of for pair in itertools.combinations(ends, 2)}
        self._all_joined = len(self._joined) == math.comb(len(catalogue.tables), 2)
        self._tables: dict[object, frozenset[str]] = {}
        self._between: dict[tuple[frozenset[str], frozenset[str]], bool] = {}

    def tables(self, value: object) -> frozenset[str]:
        """The tables that a piece is of; none where nothing here is apart from anything."""
        if self._all_joined:
            return _NO_TABLES
        if value not in self._tables:
            if len(self._tables) > MOST_KNOWN:
                self._tables.clear()
            named = {p.table for p in m.parts(value) if isinstance(p, Noun) and p.table is not None}
            self._tables[value] = frozenset(m.tables_in(value) | named)
        return self._tables[value]

    def between(self, one: frozenset[str], two: frozenset[str]) -> bool:
        """True where a table of the one and a table of the other are not joined."""
        known = self._between.get((one, two))
        if known is None:
            if len(self._between) > MOST_KNOWN:
                self._between.clear()
            known = any(a != b and frozenset((a, b)) not in self._joined for a in one for b in two)
            self._between[one, two] = known
        return known


def sequences(chart: Chart, tokens: list[Token], apart: Apart) -> list[Sequence_]:
    """The best ways to cover the words with pieces, by beam search from left to right."""
    starting: dict[int, list[tuple[Edge, float, frozenset[str], tuple[str, int, int]]]] = {}
    weights = [word_weight(t) for t in tokens]
    for (category, place), edges in chart.edges.items():
        # What went up did so, in however small words.
        if category == "GREW" and any(max(weights[e.start : e.end]) < 1.0 for e in edges):
            weights[place] = 1.0
    for (category, start), edges in chart.edges.items():
        if category in TOPS:
            best: dict[tuple[int, object], Edge] = {}
            for edge in edges:
                known = best.get((edge.end, edge.value))
                if known is None or known.score < edge.score:
                    best[edge.end, edge.value] = edge
            for edge in best.values():
                if _is_of_time(edge, tokens):
                    continue
                width = sum(weights[edge.start : edge.end])
                gain = edge.score * width + 0.1 * (edge.end - edge.start - 1) - 0.08
                told = (edge.category, edge.start, edge.end)
                starting.setdefault(start, []).append((edge, gain, apart.tables(edge.value), told))
    beams: list[list[_State]] = [[] for _ in range(len(tokens) + 1)]
    beams[0] = [(0.0, (), (), _NO_TABLES, ())]
    for place in range(len(tokens)):
        states = _best_of(beams[place], BEAM)
        cost = 0.7 if weights[place] == 1.0 else 0.12 if weights[place] == _WEIGHT_CHATTER else 0.0
        unread_here = (place,) if weights[place] == 1.0 else ()
        options = starting.get(place, ())
        for score, chosen, unread, tables, shape in states:
            beams[place + 1].append((score - cost, chosen, (*unread, *unread_here), tables, shape))
            for edge, gain, own, told in options:
                gained = score + gain - (APART_COST if own and apart.between(tables, own) else 0.0)
                beams[edge.end].append((gained, (*chosen, edge), unread, tables | own, (*shape, told)))
    done = _best_of(beams[-1], SEQUENCES)
    return [Sequence_(edges, unread, score) for score, edges, unread, _, _ in done]


def _best_of(states: list[_State], number: int) -> list[_State]:
    """The best states, few of those that differ only in which column the same words mean."""
    found: list[_State] = []
    alike: dict[object, int] = {}
    for state in sorted(states, key=lambda s: -s[0]):
        seen = alike.get(state[4], 0)
        if seen < MOST_ALIKE:
            alike[state[4]] = seen + 1
            found.append(state)
            if len(found) == number:
                break
    return found


def without_a_piece(sequence: Sequence_, tokens: Sequence[Token]) -> Iterator[Sequence_]:
    """The same pieces but one, whose words are not read: where all of them together make nothing."""
    for edge in sequence.edges:
        lost = tuple(p for p in range(edge.start, edge.end) if word_weight(tokens[p]) == 1.0)
        if lost and len(sequence.edges) > 1:
            width = sum(word_weight(t) for t in tokens[edge.start : edge.end])
            yield Sequence_(
                tuple(e for e in sequence.edges if e is not edge),
                tuple(sorted((*sequence.unread, *lost))),
                sequence.score - edge.score * width - 0.7 * len(lost),
            )


def _is_of_time(edge: Edge, tokens: Sequence[Token]) -> bool:
    """True for the "last 30" of "last 30 days", which is no ranking."""
    if edge.category not in ("TOP", "TOPX") or edge.start + 2 >= len(tokens):
        return False
    word, number, unit = tokens[edge.start : edge.start + 3]
    return word.lower == "last" and number.number is not None and unit.lower.rstrip("s") in UNITS


_HAS_NOT = frozenset(
    ["nothing", "hasn't", "haven't", "didn't", "hadn't", "hasnt", "havent", "didnt", "has", "have", "did", "had"]
)


def _denied(condition: m.Condition) -> m.Condition:
    """The opposite of a condition, in few words."""
    match condition:
        case m.Not(item):
            return item
        case m.Compared("=", left, right):
            return m.Compared("!=", left, right)
        case m.Is(column, (False,)):
            return m.Is(column, (True,))
        case _:
            return m.Not(condition)


def _none_at(rows: str, condition: m.Condition) -> m.Condition:
    """A time that is denied of what has none of its own, as no rows of another table at that time."""
    if isinstance(condition, m.Not) and isinstance(condition.item, (m.Within, m.PartIs)):
        return m.Not(m.Has(m.Rows(rows, (condition.item,))))
    return condition


def _denies_of_rows(where: Sequence[m.Condition]) -> bool:
    """True where rows of all other times, or of all other kinds, are meant."""
    return any(isinstance(c, m.Not) and isinstance(c.item, (m.Within, m.PartIs, m.Is)) for c in where)


def _when_it_was(ask: m.Ask, dates: Container[m.ColumnKey]) -> m.Ask:
    """How many left in 2025: those of whom the day on which they left lies there, whenever they joined."""
    match tuple({p for p in m.parts(ask.quantities) if isinstance(p, m.Aggregated)}):
        case (m.Aggregated(function="count", expr=None, where=(m.Not(m.Missing(date)),)) as counted,) if date in dates:
            if m.EventTime() not in m.parts((ask.where, ask.groups)):
                return ask
            change: dict[object, object] = {counted: dataclasses.replace(counted, where=()), m.EventTime(): m.Col(date)}
            return m.replaced(ask, change)  # type: ignore[return-value]
        case _:
            return ask


def _until_they_left(ask: m.Ask, draft: Draft) -> m.Ask:
    """How long leavers stayed: until they left, where else it is told of those who are still there."""
    ended = {n.key for _, n in draft.of(Noun) if n.key is not None}
    ended |= {k for _, p in draft.of(Part) if isinstance(p.condition, m.Not) for k in m.columns_in(p.condition)}
    change: dict[object, object] = {}
    gone: dict[m.Condition, m.Condition] = {}
    for part in m.parts(ask.quantities):
        match part:
            case m.Given(of=m.Length(end=m.Today()) as length, condition=m.Missing(column=key) as here) if key in ended:
                gone[here] = m.Not(here)
                change[part] = m.Given(dataclasses.replace(length, end=m.Col(key)), gone[here])
            case _:
                pass
    if not change:
        return ask
    where = tuple(dict.fromkeys(gone.get(c, c) for c in ask.where))
    return ask.but(quantities=m.replaced(ask.quantities, change), where=where)


def _doing_words(words: Sequence[str]) -> list[str]:
    """The words of a question of which one may say what is done."""
    return [w for w in words if len(w) > 3 and w.isalpha()]


def _is_timed_by(condition: m.Condition, table: str) -> bool:
    """True for a time of a day that is named, and stands on the rows of a table."""
    times = m.times_in(condition)
    return bool(times) and all(isinstance(t, m.Col) and t.key.table == table for t in times)


def _one_axis(ask: m.Ask, dates: Container[m.ColumnKey]) -> m.Ask:
    """One time for the whole question: where a date is named for one of its times, the others mean it too."""
    named: list[m.Expr] = (
        [
            m.Col(c.item.column)
            for c in ask.where
            if isinstance(c, m.Not) and isinstance(c.item, m.Missing) and c.item.column in dates
        ]
        or [t for t in m.times_in(ask.where) if isinstance(t, m.Col)]
        or [g.of for g in ask.groups if isinstance(g, m.PartOf) and isinstance(g.of, m.Col)]
    )
    if len(set(named)) != 1 or not any(isinstance(p, m.EventTime) for p in m.parts(ask)):
        return ask
    return m.timed_by(ask, named[0])  # type: ignore[return-value]


def _one_figure(ask: m.Ask) -> m.Ask:
    """Where all that is worked is one figure of a table in long form, only its rows are taken."""
    figures = {p for p in m.parts(ask) if isinstance(p, m.Given)}
    if len(figures) != 1:
        return ask
    figure = figures.pop()
    if any(figure not in m.parts(q) and figure.of in m.parts(q) for q in ask.quantities):
        # What is not paid yet stands beside all that is to be paid.
        return ask
    worked = {*m.counted_in(ask.quantities), *tables_of(ask.quantities)}
    if worked and worked != set(tables_of(figure.of)):
        # What it is held against is of other rows.
        return ask
    related = {p: _of_figure(p, figure) for p in m.parts(ask) if isinstance(p, m.Has) and figure in m.parts(p)}
    apart = m.replaced(ask, related) if related else ask  # type: ignore[arg-type]
    assert isinstance(apart, m.Ask)
    if figure not in m.parts(apart):
        return apart
    plain = m.replaced(apart, {figure: figure.of})
    assert isinstance(plain, m.Ask)
    return plain.but(where=tuple(dict.fromkeys((*plain.where, figure.condition))))


def _of_figure(has: m.Has, figure: m.Given) -> m.Has:
    """Rows below that are told by a figure are those of that figure."""
    plain = m.replaced(has.rows.where, {figure: figure.of})
    return dataclasses.replace(has, rows=dataclasses.replace(has.rows, where=(*plain, figure.condition)))  # type: ignore[misc]


_RECURRING = ("month_of_year", "quarter_of_year", "weekday", "hour")


def _of_any_year(group: m.Expr, one: m.Condition | None, two: m.Condition | None) -> m.Expr:
    """Where two years are held against each other by month, the same month of both stands on one row."""
    longer = all(isinstance(c, m.Within) and c.low and c.high and (c.high - c.low).days > 31 for c in (one, two))
    return m.of_any_year(group) if longer else group


def _is_before(one: m.Condition | None, two: m.Condition | None) -> bool:
    match one, two:
        case m.Within(low=first), m.Within(low=second):
            return (first or LONG_AGO) < (second or LONG_AGO)
        case m.PartIs(unit=unit, numbers=first_numbers), m.PartIs(unit=other, numbers=second_numbers):
            return unit == other and first_numbers < second_numbers
        case _:
            return False


def _held_against_the_other(pieces: Draft) -> Items:
    """This year and last year of the same rows are held against each other, since nothing happened in both."""
    times = [(i, p.condition) for i, p in pieces.of(Part) if p.kind == "time" and isinstance(p.condition, m.Within)]
    if len(times) != 2 or any(isinstance(v, (Versus, Lapsed, Moved, Never)) for _, v in pieces.items):
        return pieces.items
    (i, one), (j, two) = sorted(times, key=lambda t: t[1].low or dt.date.min)
    if one.high is None or two.low is None or {one.time, two.time} != {m.EventTime()} or one.high >= two.low:
        return pieces.items
    pieces.settled |= {i}
    return tuple((k, Versus(one, two) if k == j and v == Part(two, "time") else v) for k, v in pieces.items if k != i)


_ANSWERED = stems("reply response respondent survey answer questionnaire feedback")
"""Words of rows that are what somebody answered."""


def _is_a_share(part: object) -> bool:
    """True for what tells a share: of rows or a sum, beside the other rows, or as one quantity over another."""
    match part:
        case m.ShareOf() | m.Combined(op="/"):
            return True
        case m.Along(kind=kind):
            return kind in ("share", "share_within")
        case _:
            return False


def _is_stepped(ask: m.Ask) -> bool:
    """True where what is asked for is held by how it changed from the period before, or periods are counted so."""
    held = any(isinstance(h.quantity, m.Along) for h in ask.having)
    return held or any(isinstance(q, m.OverGroups) and q.change for q in ask.quantities)


def _furthest_first(ask: m.Ask) -> m.Ask:
    """How far each is from the average is what was asked for, and in that order they stand."""
    apart = [q for q in ask.quantities if isinstance(q, m.Along) and q.kind == "from_average"]
    timed = any(isinstance(g, m.PartOf) for g in ask.groups)
    return ask.but(order=(m.Order(apart[0]),)) if apart and not ask.order and not timed else ask


def _with_the_other_side(ask: m.Ask) -> m.Ask:
    """What was spent is shown beside the budget that it is more than."""
    shown = list(ask.quantities)
    for having in ask.having:
        if having.quantity in shown and isinstance(having.right, m.QUANTITIES) and not having.overall:
            if having.right not in shown:
                shown.insert(shown.index(having.quantity) + 1, having.right)
    return ask.but(quantities=tuple(shown)) if len(shown) > len(ask.quantities) else ask


def _told(ask: m.Ask, draft: Draft) -> m.Ask:
    """Lengths of time in the unit that they are asked for in."""
    for i, told in draft.of(Told):
        lengths: dict[object, object] = {
            p: dataclasses.replace(p, unit=told.unit)
            for p in m.parts((ask.quantities, ask.shows, ask.order))
            if isinstance(p, m.Length)
        }
        if lengths:
            draft.used.add(i)
            ask = m.replaced(ask, lengths)  # type: ignore[assignment]
    return ask


def _on_axis(ask: m.Ask, draft: Draft) -> m.Ask:
    """Customers who are new: when they were first heard of is when they count."""
    for i, axis in draft.of(Axis):
        draft.used.add(i)
        if any(isinstance(p, m.EventTime) for p in m.parts(ask)):
            ask = m.timed_by(ask, axis.time)  # type: ignore[assignment]
        else:
            draft.cost("new when", 0.5 if isinstance(axis.time, m.Below) else 2.5)
    return ask


def _of_such_rows(items: Items, pieces: Draft) -> Items:
    """More than one property in Saltmouth: the properties are there, and not who owns them."""
    found: list[tuple[int, object]] = []
    for i, value in items:
        before = found[-1] if found else None
        if (
            before is not None
            and before[0] == i - 1
            and pieces.edges[i].start - pieces.edges[i - 1].end <= 1
            and not {",", "and", "or", "but"} & {*pieces.words[pieces.edges[i - 1].end : pieces.edges[i].start + 1]}
            and (joined := _said_of_rows(before[1], value)) is not None
        ):
            found[-1] = i - 1, joined
            pieces.settled |= {i}
        else:
            found.append((i, value))
    return tuple(found)


def _said_of_rows(counted: object, said: object) -> Part | Held | None:
    """Some or no rows of another table that meet what is said right behind them, where it is of them."""
    match counted, said:
        case Held(Worked(m.ShareOf(condition=met) as share), ">=", 1.0), Part(condition=condition, kind="state"):
            # Who always paid on time has both.
            return Held(Worked(dataclasses.replace(share, condition=(*met, condition))), ">=", 1.0)
        case (
            Part(condition=m.Has() | m.Not(m.Has()) as has),
            Part(condition=m.Is(column) | m.Compared(left=m.Col(column), right=m.Number()) as condition),
        ):
            inner = has.item if isinstance(has, m.Not) else has
            assert isinstance(inner, m.Has)
            if column.table != inner.rows.table:
                return None
            rows = m.Rows(inner.rows.table, (*inner.rows.where, condition))
            return Part(m.replaced(has, {inner: dataclasses.replace(inner, rows=rows)}), "related")  # type: ignore[arg-type]
        case _:
            return None


def _against_a_column(condition: m.Condition) -> bool:
    """True for one column held against another."""
    return (
        isinstance(condition, m.Compared) and isinstance(condition.left, m.Col) and isinstance(condition.right, m.Col)
    )


def _with_what_is_between(ask: m.Ask, draft: Draft) -> m.Ask:
    """Jobs that cost more than was planned, and by how much: what lies between the two is shown."""
    asked = [i for i, v in draft.of(Marker) if v.kind == "gap" and i not in draft.used]
    if not asked:
        # What came of each plan stands beside it, as it stands on no row.
        plans = [c for c in ask.where if isinstance(c, m.Compared) and isinstance(c.left, m.Below)]
        told = [side for c in plans for side in (c.left, *map(m.Col, m.columns_in(c.right)))]
        # So do a reading and the limits that it lies outside of.
        limits = [c for c in ask.where if isinstance(c, m.Any) and all(_against_a_column(one) for one in c.items)]
        told += [m.Col(key) for key in m.columns_in(limits)]
        return ask.but(shows=tuple(dict.fromkeys((*ask.shows, *told)))) if ask.lists else ask
    for held in ask.having:
        right = held.right
        if isinstance(right, m.QUANTITIES) and not held.overall:
            more, less = (right, held.quantity) if held.op in ("<", "<=") else (held.quantity, right)
            draft.used.update(asked)
            return ask.but(quantities=(*ask.quantities, m.Combined("-", more, less)))
        if right == m.Number(0) and any(isinstance(p, m.Arithmetic) and p.op == "-" for p in m.parts(held.quantity)):
            draft.used.update(asked)
            return ask
    for held_here in ask.where:
        if not isinstance(held_here, m.Compared) or isinstance(held_here.left, m.Length):
            continue
        left, other = held_here.left, held_here.right
        if isinstance(other, (m.Col, m.Arithmetic)):
            pair = (other, left) if held_here.op in ("<", "<=") else (left, other)
            between = m.Arithmetic("-", *pair)
            draft.used.update(asked)
            if ask.groups:
                return ask.but(quantities=(*ask.quantities, m.Aggregated("sum", between)))
            return ask.but(shows=tuple(dict.fromkeys((*ask.shows, *pair, between)))) if ask.lists else ask
    return ask


def _same_group(one: m.Expr, two: m.Expr | None) -> bool:
    """True for one group, also where only one of them knows yet which time it is of."""
    return one == two or (isinstance(one, m.PartOf) and isinstance(two, m.PartOf) and one.unit == two.unit)


def _as_shown(value: object, category: str) -> object:
    """In a list a plain total is what is added up in it, and what is named beside an amount is named."""
    match value:
        case Counted(noun=noun) if category == "QX":
            return noun
        case Worked(quantity=m.Aggregated(function="sum", expr=m.Col() as expr, where=())):
            return Measured(expr)
        case Joined(expr=expr):
            return Measured(expr)
        case _:
            return value


def _percentage(part: m.Expr, whole: m.Expr) -> m.Combined:
    """The sum of a part in per cent of the sum of the whole."""
    return m.Combined("/", m.Aggregated("sum", part), m.Aggregated("sum", whole), percent=True)


def _is_along(quantity: m.Quantity, kind: str) -> bool:
    """True where a quantity is seen so already: growth year on year is said twice."""
    kinds = {"change_percent", "year_before"} if kind in ("change_percent", "year_before") else {kind}
    return isinstance(quantity, m.Along) and quantity.kind in kinds


def _is_ratio(quantity: m.Quantity) -> bool:
    """True for one thing over another, told in per cent."""
    return isinstance(quantity, m.Combined) and quantity.op == "/" and quantity.percent


def told_last(quantities: Sequence[m.Quantity]) -> m.Quantity | None:
    """What comes first by rank: of the same at two times, the later one."""
    later = {q.compared for q in quantities if isinstance(q, m.Between)}
    held = (q for q in quantities if isinstance(q, m.Aggregated) and later & {*q.where[-1:]})
    return next(held, quantities[0] if quantities else None)


def _change_among(quantities: Iterable[m.Quantity]) -> m.Between | None:
    return next((q for q in quantities if isinstance(q, m.Between)), None)


_REPEATING = frozenset(["repeat", "returning", "recurring"])
_RECORDS = frozenset(["record", "records", "performance", "history", "score"])
"""What a driver has who is on time more or less often."""
_TOLD_BESIDE = frozenset(
    ["with", "and", "&", ",", "plus", "showing", "including", "alongside", "along", "together", "also"]
)
"""What leads to a figure that is told beside the one that is ranked by."""
_THEIRS = frozenset(["their", "its", "the", "his", "her", "them"])
_HINTED = 0.3
"""The score of words below which they only stand in what is said of a column."""
_BESIDE_COUNTS = (("and",), ("&",), ("plus",), (",",), (",", "and"), ("and", "the"), ("and", "for"), ("with",))
Items: TypeAlias = tuple[tuple[int, object], ...]
"""Pieces with their places, in order."""


@dataclass
class Draft:
    """The pieces of one sequence by kind, and what was used of them."""

    edges: tuple[Edge, ...]
    items: Items = ()
    words: tuple[str, ...] = ()
    """The question's words, in lower case."""
    features: dict[str, float] = field(default_factory=dict)
    used: set[int] = field(default_factory=set)
    lost: set[int] = field(default_factory=set)
    """Places of words inside pieces that are used, which nothing here is called."""
    defined: frozenset[int] = frozenset()
    """Pieces that only name what is defined after them."""
    settled: frozenset[int] = frozenset()
    """Pieces that another question has used, whose answer this one takes up."""
    _sorted: tuple[object, dict[type, list[tuple[int, Any]]]] = (None, {})
    """The items that were sorted last, and those of each kind."""

    def cost(self, name: str, amount: float) -> None:
        self.features[name] = self.features.get(name, 0.0) - amount

    @classmethod
    def of_edges(cls, edges: tuple[Edge, ...], tokens: Sequence[Token]) -> Draft:
        """A draft in which nothing is used yet."""
        items: list[tuple[int, object]] = []
        for place, edge in enumerate(edges):
            items += [(place, v) for v in _flat("more" if edge.category == "MORE" else edge.value)]
        return cls(edges, tuple(items), tuple(t.lower for t in tokens))

    def fresh(self) -> Draft:
        """The same pieces, of which nothing is used yet."""
        used = {*self.defined, *self.settled}
        return Draft(
            self.edges,
            self.items,
            self.words,
            used=used,
            defined=self.defined,
            settled=self.settled,
            _sorted=self._sorted,
        )

    def copy(self) -> Draft:
        """The same, used as far as it is, with costs of its own from here on."""
        return dataclasses.replace(self, features=dict(self.features), used=set(self.used))

    def apart(self, places: Sequence[int]) -> int:
        """How many of the pieces at these places follow another without a word that joins the two."""
        found = 0
        for one, two in itertools.pairwise(places):
            between = range(self.edges[one].end - 1, self.edges[two].start + 1)
            found += one != two and not any(self.words[p] in _JOINING for p in between)
        return found

    def of(self, kind: type[P]) -> Sequence[tuple[int, P]]:
        """The pieces of a kind, each with its place."""
        if self._sorted[0] is not self.items:
            by_kind: dict[type, list[tuple[int, Any]]] = {}
            for item in self.items:
                for one in type(item[1]).__mro__:
                    if one in by_kind:
                        by_kind[one].append(item)
                    else:
                        by_kind[one] = [item]
            self._sorted = self.items, by_kind
        return self._sorted[1].get(kind, ())

    def says(self, place: int, words: Container[str]) -> bool:
        """True where one of some words stands in the piece at a place, or right before it."""
        return any(w in words for w in self.words[max(self.edges[place].start - 1, 0) : self.edges[place].end])

    def in_money(self, place: int) -> bool:
        """True where a number of the piece at a place is told in a currency."""
        return _are_in_money(self.words[self.edges[place].start : self.edges[place].end + 1])

    def asks_besides(self, place: int) -> bool:
        """True where a piece is asked for beside another: claims by cause, and what they came to."""
        start = self.edges[place].start
        return start > 0 and self.words[start - 1] == "and" and self.words[start] in ("what", "how")

    def joined_to_count(self, place: int) -> bool:
        """True for a piece that stands beside how many there are: how many and how much, number and sum."""
        return self._joined_to(place, (Counted,))

    def joined_to_figure(self, place: int) -> bool:
        """True for a piece that stands beside what is worked out: visits and average rating.

        Customers of "revenue from newsletter customers and total revenue" are those that the revenue is from.
        """
        figures = (*_MEASURING, Worked)
        edge = self.edges[place]
        for before in reversed(range(place)):
            if _JOINING & set(self.words[self.edges[before].end : edge.start]):
                break
            if any(i == before and isinstance(v, figures) for i, v in self.items):
                return False
        return self._joined_to(place, figures)

    def has_figure_before(self, place: int) -> bool:
        """True where something else is worked out that was asked for before a piece."""
        figures = (Worked, Measured, Rated, Ratio, Counted, Noun)
        return not self.of(Top) and any(i < place and isinstance(v, figures) for i, v in self.items)

    def _joined_to(self, place: int, kinds: tuple[type, ...]) -> bool:
        edge = self.edges[place]
        return any(
            self.words[one.end : other.start] in _BESIDE_COUNTS
            for other_place, value in self.items
            if isinstance(value, kinds)
            for one, other in ((self.edges[other_place], edge), (edge, self.edges[other_place]))
        )

    def asks_for_several(self, noun: Noun) -> bool:
        """True for the most common breeds, and which breeds are: more than one is asked for."""
        called = {stem(p) for p in name_parts(noun.table or (noun.key.column if noun.key is not None else ""))}
        for edge in self.edges:
            for leaf in leaves(edge):
                said, before = self.words[leaf.start : leaf.end], self.words[: leaf.start]
                done = leaf.category == "D" and leaf.value.key.table == noun.table
                if (leaf.value != noun and not done) or leaf.category == "DOER":
                    continue
                # The reasons for a visit are several, and a reason for visits is one; so is which tutor teaches the most.
                said = said[: next((n for n, w in enumerate(said) if w in ("for", "of")), len(said))]
                named = [w for w in said if len(said) == 1 or stem(w) in called]
                doing = (
                    named
                    and named[-1] in lexicon.verbs()
                    and before[-1:] not in (("common",), ("frequent",), ("popular",))
                )
                if not named or doing or before[-1:] == ("who",):
                    continue
                if len(before) == 2 and before[0] in ("which", "what") and named[-1] not in _MANY:
                    # What stands behind "which tutor" is what the tutor does.
                    continue
                behind = [w for w in before[-2:] if w not in ("the", "our", "all")][-1:]
                of_which = bool(behind) and behind[0] in ("of", "for", "in", "by", "with", "from", "to", "at")
                one = self.words[leaf.end : leaf.end + 1] in (("has",), ("is",), ("was",), ("does",), ("gets",))
                return _is_plural(named[-1]) and not of_which and not one
        return False

    def asks_for_times(self, unit: str) -> bool:
        """True for the busiest months, and which weekdays are busiest."""
        return bool(_TIMES.get(unit, frozenset()) & {*self.words})

    def measures_trouble(self) -> bool:
        """True where what is measured is worse the more there is of it: late deliveries, complaints, days lost."""
        return any(
            self.names_trouble(i)
            for i, value in self.items
            if (value.by is not None if isinstance(value, Top) else isinstance(value, _MEASURING))
        )

    def names_trouble(self, place: int) -> bool:
        """True where a word of a piece is one for what is worse the more there is of it."""
        words = [w.replace("-", "") for w in self.words[self.edges[place].start : self.edges[place].end]]
        words += [one + two for one, two in itertools.pairwise(words)]
        return any(stem(w) in lexicon.troubles() for w in words)

    def asks(self) -> list[str]:
        """What the words that ask are asking: list, which, who, where, when; clients who are late are no question."""
        return [a.what for i, a in self.of(Asking) if a.what not in ("who", "where") or not self._follows_noun(i)]

    def _follows_noun(self, place: int) -> bool:
        if not place or self.edges[place - 1].end != self.edges[place].start:
            return False
        return any(i == place - 1 and not n.unknown for i, n in self.of(Noun))


def _joined(conditions: list[m.Condition]) -> tuple[m.Condition, ...]:
    """Two values of one column are either, since nothing has both."""
    found: list[m.Condition] = []
    for condition in conditions:
        place = next(
            (
                i
                for i, c in enumerate(found)
                if isinstance(c, m.Is) and isinstance(condition, m.Is) and c.column == condition.column
            ),
            None,
        )
        if place is None:
            found.append(condition)
            continue
        known = found[place]
        assert isinstance(known, m.Is) and isinstance(condition, m.Is)
        shared = tuple(v for v in known.values if v in condition.values)
        found[place] = m.Is(known.column, shared or (*known.values, *condition.values))
    return tuple(found)


def _none_in_periods(
    where: tuple[m.Condition, ...], groups: Sequence[m.Expr]
) -> tuple[tuple[m.Condition, ...], m.Having | None]:
    """Days with no visits: the days are worked out with how many there were, and none there was is told of them."""
    if not (len(groups) == 1 and isinstance(groups[0], m.PartOf) and isinstance(groups[0].of, m.EventTime)):
        return where, None
    for condition in where:
        match condition:
            case m.Not(item=m.Has(rows=m.Rows(table=table, where=told), op=">=", number=1)):
                none = m.Having(m.Aggregated("count", table=table, where=told), "=", m.Number(0.0))
                return tuple(c for c in where if c is not condition), none
            case _:
                pass
    return where, None


def _is_of_a_time(ask: m.Ask) -> bool:
    """True where it matters when things happened."""
    return any(isinstance(p, m.EventTime) for p in m.parts((ask.where, ask.groups)))


def _shares_of_years(ask: m.Ask) -> m.Ask:
    """Shares in one year and in another are of each of the two."""
    shared = [q for q in ask.quantities if isinstance(q, m.Along) and q.kind == "share"]
    timed = any(isinstance(g, m.PartOf) for g in ask.groups)
    years = [
        c
        for c in ask.where
        if isinstance(c, m.Any)
        and all(isinstance(i, m.Within) and i.time == m.EventTime() and are_whole_years(i.low, i.high) for i in c.items)
    ]
    if not shared or timed or not years or len(ask.groups) != 1:
        return ask
    within: dict[object, object] = {q: dataclasses.replace(q, kind="share_within") for q in shared}
    told = m.replaced(ask, within)
    assert isinstance(told, m.Ask)
    return told.but(groups=(*ask.groups, m.PartOf("year", m.EventTime())))


_WH = frozenset(["which", "what", "who", "whose", "when", "where", "how", "list", "show"])


def _spans_whole_years(draft: Draft) -> bool:
    """True where a time is said that runs from the beginning of a year to the end of another."""
    spans = (p.condition for _, p in draft.of(Part) if isinstance(p.condition, m.Within))
    return any(
        isinstance(s.low, dt.date)
        and isinstance(s.high, dt.date)
        and are_whole_years(s.low, s.high)
        and s.high.year > s.low.year
        for s in spans
    )


def _tells_how_far(ask: m.Ask) -> bool:
    """True for a figure that is told with how far it is from a number."""
    return any(
        isinstance(q, m.Combined) and q.op == "-" and isinstance(q.right, m.Number) and q.left in ask.quantities
        for q in ask.quantities
    )


def _counts_most(draft: Draft) -> bool:
    """True for the most or the fewest of something, and not for what is most expensive."""
    return any(t.by is None or draft.edges[i].rule.startswith("MOST") for i, t in draft.of(Top))


def _is_said_of_each(draft: Draft, place: int, group: Grouped) -> bool:
    yearly = isinstance(group.by, m.PartOf) and group.by.unit == "year"
    return yearly and draft.says(place, ("each", "every", "per", "yearly", "annual", "annually"))


def _falls_short(condition: m.Condition) -> m.Expr | None:
    """What one column is less than another by, as what is paid of what is due; None for any other condition."""
    match condition:
        case m.Compared(op="<", left=m.Col() as left, right=m.Col() as right):
            return m.Arithmetic("-", right, left)
        case _:
            return None


def _is_of_each(quantity: m.Quantity) -> bool:
    """True for what cannot be added up: an average, a share, a ratio."""
    match quantity:
        case m.Aggregated(function=function):
            return function in ("mean", "median", "percentile", "deviation", "variance", "min", "max")
        case m.ShareOf():
            return True
        case m.Combined(op="/"):
            return True
        case _:
            return False


def _lasts_no_time(length: m.Length, time: m.ColumnKey | None) -> bool:
    """True for how long something took from one moment to the same."""
    start, end = (
        m.Col(time) if isinstance(e, m.EventTime) and time is not None else e for e in (length.start, length.end)
    )
    return start == end


def _is_of_the_latest(condition: m.Condition) -> bool:
    match condition:
        case m.Compared(op="=", left=m.PartOf(of=m.EventTime()), right=m.Aggregated(function="max")):
            return True
        case _:
            return False


def _is_earned(draft: Draft) -> bool:
    """True where a verb says that money is taken or paid."""
    return any(verb.kind == "money" for word in draft.words for verb in lexicon.verbs().get(word, ()))


def _of_each_time(
    draft: Draft, functions: Sequence[tuple[int, Function]], found: list[m.Quantity]
) -> list[m.Quantity] | None:
    """What is charged on average is that of each time, and not all of it."""
    first = found[0] if len(found) == 1 else None
    if len(functions) != 1 or not isinstance(first, m.Aggregated) or first.function not in ("sum", "mean"):
        return None
    place, function = functions[0]
    if function.function not in ("mean", "median") or "total" in draft.words or first.expr is None:
        return None
    draft.used.add(place)
    return [m.Aggregated(function.function, first.expr, where=first.where)]  # type: ignore[arg-type]


def _with_basis(items: Items) -> Items:
    """Where the most of something is told by what is said elsewhere, that is what is worked out."""
    tops = [v for _, v in items if isinstance(v, Top)]
    if len(tops) != 1 or tops[0].by is not None or tops[0].counts:
        return items
    found: list[tuple[int, object]] = []
    for place, value in items:
        match value:
            case Basis(by=by) | Sorted(by=(Measured() | Worked() | Counted()) as by):
                found.append((place, by))
            case _:
                found.append((place, value))
    return tuple(found)


def _with_axis(items: Items, dates: Container[m.ColumnKey]) -> Items:
    """Month by month, going by the first day: the day says when, and is nothing to sort by."""
    if not any((isinstance(v, Grouped) and isinstance(v.by, m.PartOf)) or isinstance(v, Versus) for _, v in items):
        return items
    return tuple(
        (i, v.by if isinstance(v, (Sorted, Grouped)) and isinstance(v.by, Noun) and v.by.key in dates else v)
        for i, v in items
    )


def _with_definition(items: Items) -> tuple[Items, frozenset[int]]:
    """Where what is measured is defined in the question, the definition is meant, and not the word before it."""
    marks = [i for i, v in items if isinstance(v, Marker) and v.kind == "definition"]
    for mark in marks:
        told = [v for i, v in items if i == mark + 1]
        if len(told) == 1 and _is_worked_out(told[0]):
            terms = (Measured, Worked, Ratio, Joined, Counted)
            names = {i for i, v in items if i < mark and (isinstance(v, terms) or (isinstance(v, Noun) and v.unknown))}
            # Commission per broker, where commission is defined, is asked of each broker.
            each = [
                (i, Grouped(v.bottom))
                for i, v in items
                if i in names and isinstance(v, Ratio) and isinstance(v.bottom, Noun)
            ]
            kept = [(i, v) for i, v in items if i not in names]
            return tuple(sorted([*kept, *each], key=lambda p: p[0])), frozenset(names - {i for i, _ in each})
    return items, frozenset()


def _names_defined(sequence: Sequence_, draft: Draft) -> set[int]:
    """Places of the few words before a definition that only name it: the load factor, that is output by capacity."""
    marks = [i for i, v in draft.of(Marker) if v.kind == "definition"]
    told = dict(draft.items)
    mark = next((i for i in marks if _is_worked_out(told.get(i + 1))), None)
    if mark is None:
        return set()
    before = [p for p in sequence.unread if p < sequence.edges[mark].start]
    return set(before) if len(before) <= 3 and (not before or before[-1] - before[0] < 4) else set()


def _is_worked_out(value: object) -> bool:
    match value:
        case Measured(expr=m.Arithmetic() | m.Length()) | Worked(quantity=m.Combined() | m.ShareOf()) | Ratio():
            return True
        case _:
            return False


def _is_plural(word: str) -> bool:
    plural = word.endswith(("s", "s'")) and word[-2:] not in ("ss", "us", "is", "'s")
    return (plural and word not in _ONE_AND_MANY) or word in _MANY


def _is_sorted_by_half_a_ratio(draft: Draft) -> bool:
    """True where "ranked by income" and "per vet", side by side, are taken apart."""
    ends = {draft.edges[i].end for i, s in draft.of(Sorted) if isinstance(s.by, (Measured, Noun))}
    return any(
        draft.edges[i].start in ends and draft.words[draft.edges[i].start] == "per" for i, _ in draft.of(Grouped)
    )


def _flat(value: object) -> Iterator[object]:
    if isinstance(value, tuple) and not hasattr(value, "_fields"):
        for item in value:
            yield from _flat(item)
    else:
        yield value


def _is_since_it_happened(part: object) -> bool:
    """True for how long ago something happened."""
    return isinstance(part, m.Length) and isinstance(part.start, m.EventTime) and isinstance(part.end, m.Now)


_TEACHING = frozenset(stem(w) for w in ["teacher", "tutor", "instructor", "lecturer", "examiner", "marker", "trainer"])
_TEACHES = frozenset(["teaches", "teach", "taught", "marks", "marked", "gives", "gave", "examines", "leads", "led"])
_CAME = frozenset(stem(w) for w in ["attended", "came", "present", "showed", "arrived", "seen", "completed", "done"])
_MISSED = frozenset(stem(w) for w in ["no", "not", "never", "didn't", "failed"])
_HAD = ("had", "have", "has")
_CLAUSES = frozenset(["that", "which", "who"])
_BEING = frozenset(["were", "was", "are", "is"])


def _each_figure(ask: m.Ask) -> m.Ask:
    """Births less deaths, which stand on rows of their own: each is added up by itself."""
    apart: dict[object, object] = {}
    for part in m.parts(ask.quantities):
        match part:
            case m.Aggregated(
                "sum", m.Arithmetic("+" | "-" as op, m.Given() as one, m.Given() as two), None, where
            ) if one.condition != two.condition:
                left, right = (m.Aggregated("sum", e, where=where) for e in (one, two))
                apart[part] = m.Combined(op, left, right)
            case _:
                pass
    return m.replaced(ask, apart) if apart else ask  # type: ignore[return-value]


def _none_of_each_kind(ask: m.Ask, catalogue: Catalogue) -> m.Ask:
    """Drivers with no incidents, who stand on trips: those on none of whose trips there was one, not each with a trip without."""
    match ask:
        case m.Ask(quantities=(m.Aggregated(function="distinct", expr=m.Col(key=kind)),), groups=(), having=()):
            inner = _none_of_each_kind(ask.but(quantities=(), groups=(m.Col(kind),)), catalogue)
            return ask.but(where=(m.Among(kind, inner),)) if inner.having else ask
        case m.Ask(quantities=(), groups=(_, *_), having=(), limit=None):
            pass
        case _:
            return ask
    none = [
        c
        for c in ask.where
        if isinstance(c, m.Not)
        and isinstance(c.item, m.Has)
        and catalogue.path(c.item.rows.table, ask.head) is not None
    ]
    table = catalogue.table(ask.head)
    several = all(
        isinstance(g, m.Col) and g.key.table == ask.head and table.column(g.key.column).distinct < table.rows
        for g in ask.groups
    )
    if len(none) != 1 or not several or none[0].item.rows.table == ask.head:  # type: ignore[union-attr]
        return ask
    such = m.Aggregated("count", table=ask.head, where=(none[0].item,))
    where = tuple(c for c in ask.where if c not in none)
    return ask.but(where=where, quantities=(such,), having=(m.Having(such, "=", m.Number(0)),))


def _none_of_such(ask: m.Ask, catalogue: Catalogue) -> m.Ask:
    """People who have not worked on the app have none of its hours: of all they did, none is of that."""
    none = [
        h
        for h in ask.having
        if h.op == "=" and h.right == m.Number(0.0) and isinstance(h.quantity, m.Aggregated) and not h.quantity.where
    ]
    told_by = {k for g in ask.groups for k in m.columns_in(g)}
    above = {r.other for r in catalogue.relationships if m.ColumnKey(r.table, r.column) in told_by}
    # European countries are so however many companies they have.
    such = tuple(
        c
        for c in ask.where
        if isinstance(c, m.Is)
        and c.column.table not in above
        and all(catalogue.path(t, c.column.table) is not None for h in none for t in m.counted_in(h.quantity))
    )
    if (
        len(none) != 1
        or len(ask.having) != 1
        or not such
        or len(ask.groups) != 1
        or not isinstance(ask.groups[0], m.Col)
    ):
        return ask
    held = none[0].quantity
    assert isinstance(held, m.Aggregated)
    told = dataclasses.replace(held, where=such)
    quantities = tuple(told if q == held else q for q in ask.quantities)
    rest = tuple(c for c in ask.where if c not in such)
    return ask.but(where=rest, quantities=quantities, having=(dataclasses.replace(none[0], quantity=told),))


def _are_in_money(words: Iterable[str]) -> bool:
    """True where one of some words says a currency."""
    return any(unicodedata.category(w[0]) == "Sc" or w.removesuffix("s") in CURRENCIES for w in words if w)


def _crosses_a_clause(edge: Edge, tokens: Sequence[Token], shared: bool) -> bool:
    """True for a condition that passes over the words with which something is said of the rows, and not of it.

    In a share these may be a bare verb: of policies with a claim those are told that were cancelled.
    """
    if edge.category != "K":
        return False
    read = {p for leaf in leaves(edge) for p in range(leaf.start, leaf.end)}
    passed = [tokens[p].lower for p in range(edge.start, edge.end) if p not in read]
    clause = any(one in _CLAUSES and two in _BEING for one, two in itertools.pairwise(passed))
    return clause or (shared and edge.rule.startswith("HAVING T") and bool(_BEING & set(passed)))


def _since(value: object, time: m.ColumnKey) -> object:
    """A condition on how long ago something happened, of that time."""
    if not isinstance(value, Part) or not any(map(_is_since_it_happened, m.parts(value.condition))):
        return value
    condition: Any = m.replaced(value.condition, {m.EventTime(): m.Col(time)})
    return dataclasses.replace(value, condition=condition)


def _table_named(edge: Edge) -> str | None:
    """The table whose rows a piece names, or whose rows it keeps by a value."""
    for value in _flat(edge.value):
        noun = value.noun if isinstance(value, Counted) else value
        if isinstance(noun, Noun) and noun.table is not None:
            return noun.table
        if isinstance(value, Part) and isinstance(value.condition, m.Is):
            return value.condition.column.table
    return None


def _names_rows_again(one: Edge, two: Edge) -> bool:
    """True where a word beside the name of some rows is taken for another name of the same."""
    beside = one.category == two.category == "NP" and one.end == two.start
    return beside and one.value == two.value and isinstance(one.value, Noun) and one.value.table is not None


def _is_of_goods(key: m.ColumnKey) -> bool:
    """True for a column that says what was sold, made or handled on each row."""
    return bool({part.removesuffix("s") for part in name_parts(key.column)} & _GOODS)


def _put_together_as(ask: m.Ask, usual: m.Aggregated, function: str, draft: Draft) -> m.Ask:
    """A meaning in which a figure is put together as it is said to be, where else it would be as is usual."""
    worked = [
        p
        for p in m.parts(ask)
        if isinstance(p, m.Aggregated)
        and p.function in ("sum", "mean", function)
        and _is_so_much_of(p.expr, usual.expr)
    ]
    if not worked and (function, usual.function) != ("sum", "sum"):
        # What is said would be lost; a total may be said of each row's.
        draft.cost("put together otherwise", 2.0)
    if any(p.function == function for p in worked):
        return ask
    held = [
        p.right
        for p in m.parts(ask)
        if isinstance(p, m.Combined) and p.op == "/" and p.left in worked and function in ("mean", "median")
        if isinstance(p.right, m.Aggregated) and p.right.function == "sum" and "total" not in draft.words
    ]
    # The average tip is held against the average fare, and not against all of them.
    told: dict[object, object] = {p: dataclasses.replace(p, function=function) for p in (*worked, *held)}  # type: ignore[arg-type]
    return m.replaced(ask, told) if told else ask  # type: ignore[return-value]


def _is_so_much_of(expr: m.Expr | None, of: m.Expr | None) -> bool:
    """True for an expression, or so much of it: a fifth of the average fee is the average of fifths."""
    match expr:
        case m.Arithmetic(op="*" | "/", left=left, right=m.Number()):
            return _is_so_much_of(left, of)
        case _:
            return expr == of


class Assembler:
    """Makes meanings of sequences over one catalogue."""

    def __init__(self, nouns: Nouns, ages: Mapping[str, m.Expr]) -> None:
        self.nouns = nouns
        self.ages = ages
        """How old the rows of a table are, where that is known."""
        self.catalogue = nouns.catalogue
        self._names_in: tuple[tuple[str, ...], tuple[tuple[int, int], ...]] = (), ()

    @functools.cached_property
    def _single_names(self) -> frozenset[tuple[str, ...]]:
        """Words that are the whole name of a column."""
        return frozenset(c.parts for c in self.nouns.vocabulary.columns.values() if len(c.parts) == 1)

    def candidates(self, sequence: Sequence_, tokens: Sequence[Token], bar: Bar) -> Iterator[Candidate]:
        """Every meaning of a sequence by itself that is not below the bar."""
        edges = self._bounded_as_shared(self._aged_as_named(sequence.edges), tokens)
        yield from self.finished(self.asks_of(Draft.of_edges(edges, tokens)), sequence, tokens, bar=bar)

    def _bounded_as_shared(self, edges: tuple[Edge, ...], tokens: Sequence[Token]) -> tuple[Edge, ...]:
        """The share of orders over £50: what is over it are orders, and not the share of them."""
        made = list(edges)
        for place, (one, two) in enumerate(itertools.pairwise(edges), 1):
            part = self._bound_of_shared(one.value, two.value, tokens[two.start : two.end + 1])
            if part is not None:
                made[place] = dataclasses.replace(two, value=part)
        for place, edge in enumerate(made):
            match edge.value:
                case (Shared() as shared, Held() as held):
                    # Orders over £50 as a percentage of all.
                    part = self._bound_of_shared(shared, held, ())
                    if part is not None:
                        of_those = dataclasses.replace(shared, condition=part.condition)
                        made[place] = dataclasses.replace(edge, value=of_those)
                case _:
                    pass
        return tuple(made)

    def _bound_of_shared(self, shared: object, held: object, tokens: Sequence[Token]) -> Part | None:
        """What a bare number behind a share bounds of the rows that it is of."""
        if not isinstance(shared, Shared) or not isinstance(shared.of, Noun) or shared.condition is not None:
            return None
        if not isinstance(held, Held) or held.quantity is not None or held.or_below is not None:
            return None
        said = {t.lower for t in tokens}
        if not isinstance(held.right, float) or shared.of.table is None or _PERCENT & said:
            return None
        bounded = self._bounded(shared.of.table, held.right, money=_are_in_money(said))
        return None if bounded is None else Part(m.Compared(held.op, bounded, m.Number(held.right)), "number")

    def _bounded(self, table: str, number: float, *, money: bool) -> m.Expr | None:
        """What a bare number bounds of rows: those under 65 are people; what is under £80 is told in money."""
        aged = self._age_of(table) if 15 < number < 110 and not money else None
        paid = self._money_of(table) if money else None
        return paid or aged or self.nouns.main_measure(table)

    def _aged_as_named(self, edges: tuple[Edge, ...]) -> tuple[Edge, ...]:
        """Animals older than ten are told by when they were born, whatever rows they are counted through."""
        made = list(edges)
        for place, edge in enumerate(edges):
            if not any(
                isinstance(part, Part) and any(map(_is_since_it_happened, m.parts(part.condition)))
                for part in _flat(edge.value)
            ):
                continue
            table = next((t for near in reversed(edges[: place + 1]) if (t := _table_named(near)) is not None), None)
            time = self._since_when(table) if table is not None else None
            if time is not None:
                values = tuple(_since(value, time) for value in _flat(edge.value))
                made[place] = dataclasses.replace(edge, value=values if isinstance(edge.value, tuple) else values[0])
        return tuple(made)

    def _since_when(self, table: str) -> m.ColumnKey | None:
        """When the rows of a table were born or made, or what they tell of happened."""
        age = self.ages.get(table)
        made = m.columns_in(age) if isinstance(age, m.Length) else []
        return made[0] if made else event_time(self.catalogue, table)

    def finished(
        self,
        asks: Iterable[tuple[m.Ask, Draft]],
        sequence: Sequence_,
        tokens: Sequence[Token],
        *,
        follows: bool = False,
        bar: Bar | None = None,
    ) -> Iterator[Candidate]:
        """Meanings with the words they leave unread, and their scores."""
        words = [leaf for edge in sequence.edges for leaf in leaves(edge)]
        as_rows = sum(leaf.category == "U" and leaf.score <= KNOWN_OTHERWISE for leaf in words)
        things = sum(self._is_a_thing(leaf, tokens) for leaf in words)
        apart = sum(
            any(e.start < end and start < e.end for e in sequence.edges)
            and not any(leaf.start <= start and end <= leaf.end for leaf in words)
            for start, end in self._whole_names(tuple(t.stem for t in tokens))
        )
        shared = any(isinstance(v, Shared) for edge in sequence.edges for v in _flat(edge.value))
        crossed = sum(_crosses_a_clause(edge, tokens, shared) for edge in sequence.edges)
        firsts = (
            e.start for e in sequence.edges if any(isinstance(v, Part) and v.kind == "first" for v in _flat(e.value))
        )
        of_nobody = any(all(word_weight(t) < 1.0 for t in tokens[:start]) for start in firsts)
        put_together = {
            (self.nouns.aggregate(piece.value.expr), piece.value.function)
            for edge in sequence.edges
            for piece in pieces_of(edge)
            if isinstance(piece.value, Measured) and piece.value.function
        }
        defined = any(
            isinstance(v, Marker) and v.kind == "definition" for edge in sequence.edges for v in _flat(edge.value)
        )
        for ask, draft in asks:
            if bar is not None and not defined and bar.is_above(sequence.score + sum(draft.features.values())):
                # What is found below only speaks against it.
                continue
            for as_usual, function in put_together:
                ask = _put_together_as(ask, as_usual, function, draft)
            draft.cost("a known word taken for rows", 0.4 * as_rows)
            if of_nobody:
                # The first visit of 2024 is a visit, and nobody whose first one it was.
                draft.cost("whose first it was", 2.0)
            if things:
                # To settle a claim on average is of claims, and of no amount that was claimed.
                draft.cost("a thing taken for a measure", 0.5 * things)
            if crossed:
                # Policies sold in 2025 that were cancelled were not cancelled then.
                draft.cost("over a clause of its own", 0.5 * crossed)
            if apart:
                # The unemployment rate is a column, and no rate of the unemployed.
                draft.cost("a name taken apart", 0.8 * apart)
            ask = self._on_the_first_axis(_on_axis(_told(ask, draft), draft), draft)
            ask = ordered_by_groups(_with_the_other_side(_furthest_first(ask)), self.catalogue)
            ask = self._until_now(self._each_alone(ask, draft), draft)
            ask = _with_what_is_between(self._laid_across(self._when_named(ask, draft), draft), draft)
            if any(v.kind == "stacked" for _, v in draft.of(Marker)):
                ask = stacked(ask, self.catalogue)
            some = next((v for _, v in draft.of(Marker) if v.kind == "so many"), None)
            if some is not None and ask.lists and ask.limit is None:
                ask = ask.but(limit=int(some.what))
            if some is not None and draft.of(Top):
                # The five clinics with the highest fee are ranked, and not any five.
                draft.cost("so many of what is ranked", 2.0)
            if ask.chart is not None and ask.limit == 1 and ask.groups and ask.chart.kind != "table":
                # Of one thing there is nothing to draw: the chart shows it beside all the others.
                ask = ask.but(limit=None)
            left = [
                i for i in range(len(sequence.edges)) if i not in draft.used and not self._idle(sequence.edges[i], ask)
            ]
            unread = {*sequence.unread, *draft.lost}
            used = [p for p, t in enumerate(tokens) if t.lower in _USED_UP]
            if used and any(map(self.nouns.is_meter, m.columns_in(ask.quantities))):
                # How much was used is not what the meter stands at.
                unread.update(used)
                draft.cost("what a meter stands at", 0.5)
            for again in (two for one, two in itertools.pairwise(sequence.edges) if _names_rows_again(one, two)):
                # A dividend yield is something of dividends that is not known, and no dividend.
                unread.update(range(again.start, again.end))
                draft.cost("rows named again", 0.4)
            named = _names_defined(sequence, draft)
            if named:
                unread -= named
                draft.cost("a name that is defined", -0.6 * len(named))
            strange = [p for leaf in words for p in self._said_beside(leaf, tokens)]
            if strange:
                # Methane is no part of the name of emissions.
                unread.update(strange)
                draft.cost("words beside a name", 0.3 * len(strange))
            for i in left:
                edge = sequence.edges[i]
                places = [
                    p
                    for p in range(edge.start, edge.end)
                    if word_weight(tokens[p]) == 1.0 or edge.category in ("NP", "E", "K", "H")
                ]
                unread.update(places)
                draft.cost("unused", 0.75 * max(1, len(places)) + edge.score * 0.5)
            if draft.of(Stepped) and not _is_stepped(ask):
                draft.cost("a change that is not told", 2.0)
            # The percentage of a change comes with it; a share does not.
            asked_for = any(v.share for _, v in draft.of(Lapsed)) or any(
                i not in left and draft.says(i, ("share", "shares", "proportion")) for i, _ in draft.of(Shared)
            )
            if asked_for and not any(map(_is_a_share, m.parts(ask))):
                draft.cost("a share that is not told", 2.0)
            if any(v.kind == "their number" for _, v in draft.of(Marker)):
                # "And how many of those" at the beginning asks for those.
                draft.cost("the number of nothing", 2.0)
            if any(isinstance(p, m.Compared) and self._are_unlike(p.left, p.right) for p in m.parts(ask.where)):
                # What is in stock is not held against what it costs.
                draft.cost("money held against what is none", 0.6)
            for i, part in draft.of(Part):
                counted_next = any(
                    j == i + 1 and sequence.edges[j].start == sequence.edges[i].end and not noun.unknown
                    for j, noun in draft.of(Noun)
                )
                if counted_next and isinstance(part.condition, m.Compared) and tokens[sequence.edges[i].end - 1].number:
                    # Who took more than one course took so many courses, and paid no more than one.
                    draft.cost("a number of something else", 0.5)
            bounds = [i for kind in (Part, Held) for i, _ in draft.of(kind) if draft.in_money(i)]
            if bounds and not any(
                self.nouns.column(k).role is Role.MONEY
                for p in (*m.parts(ask.where), *ask.having)
                if isinstance(p, (m.Compared, m.Having))
                for k in m.columns_in(p, nested=True)
            ):
                # What is over £10 is money, and neither a share nor how many there are.
                draft.cost("no money", 1.2)
            counting = any("many" in draft.words[draft.edges[i].start : draft.edges[i].end] for i, _ in draft.of(Held))
            if counting and any(
                isinstance(h.quantity, m.Aggregated)
                and h.quantity.function == "sum"
                and isinstance(h.right, m.Number)
                and self._is_of_one_row(h.quantity.expr, h.right.value, ask.groups)
                for h in ask.having
            ):
                # How many charges over 10 there are is asked of charges, and not of what they come to.
                draft.cost("what all are beyond", 1.0)
            if self._counts_figures(ask):
                # How many appointments there were is a figure in the table, and not how many rows tell of it.
                draft.cost("figures counted", 0.8)
            held = [p for p in m.parts(ask.where) if isinstance(p, m.Compared) and not isinstance(p.right, m.Number)]
            usual = any(isinstance(c.right, m.Aggregated) for c in held)
            if "than" in draft.words and held and not ask.quantities:
                whose, nouns = tables_of(held), [n for _, n in draft.of(Noun)]
                if nouns and not any(n.table in whose for n in nouns):
                    # Airlines that leave later than average do so on average, and not on each of their flights.
                    draft.cost("each by rows of its own", 0.8)
            if any(
                isinstance(one.value, Listing)
                and isinstance(one.value.columns[-1], Counted)
                and isinstance(two.value, Held)
                and two.value.quantity is None
                and isinstance(two.value.right, float)
                for one, two in itertools.pairwise(sequence.edges)
            ):
                # A bound behind a number of rows is that number's, and no figure's of those that have them.
                draft.cost("a bound of something else", 2.0)
            if any(h.quantity is None and isinstance(h.right, Function) for _, h in draft.of(Held)) and not usual:
                draft.cost("what is held is lost", 0.0 if ask.having else 1.5)
            counted = [*m.counted_in(ask.quantities)]
            counted += [t for q in m.parts(ask.quantities) if isinstance(q, m.Aggregated) for t in tables_of(q.expr)]
            for i, noun in draft.of(Noun):
                rows = noun.table
                if counted and rows is not None and i not in left and self._does_nothing(rows, ask, counted):
                    # Objects on loan are not all objects: rows below that are named and do nothing are not read.
                    unread.update(range(sequence.edges[i].start, sequence.edges[i].end))
                    draft.cost("rows below that do nothing", 0.9)
                if i not in left and self._is_kinds_of_a_key(noun):
                    draft.cost("kinds of a key", 0.4)
            shown = m.columns_in(ask, nested=True)
            for i, noun in draft.of(Noun):
                told = (
                    noun.key in shown if noun.key is not None else noun.table in {ask.head, *(k.table for k in shown)}
                )
                if i not in left and not told and not noun.unknown:
                    topped = i > 0 and any(
                        j == i - 1 and t.noun is None and t.number is not None for j, t in draft.of(Top)
                    )
                    topped = topped and noun.key is not None
                    asked = any(j == i - 1 and a.what == "which" for j, a in draft.of(Asking)) and bool(
                        ask.groups and draft.of(Top)
                    )
                    if isinstance(sequence.edges[i].value, tuple) or topped or asked:
                        # Animals with species and weight: the total weight says nothing of the species; and the top
                        # three breeds by species are no three species.
                        draft.cost("a column that is not shown", 0.7)
            if any(self._is_kinds_of_a_key(c.noun) for _, c in draft.of(Counted)):
                draft.cost("kinds of a key", 0.4)
            if draft.words[:1] == ("who",) and not draft.asks() and ask.lists:
                # Who borrowed it asks for people, and not for what was borrowed.
                draft.cost("who is not told", 0.4)
            if "who" in draft.asks() and not self._tells_who(ask):
                # Who makes the most bookings asks for people, and not for bookings.
                unread.update(sequence.edges[i].start for i, a in draft.of(Asking) if a.what == "who")
                draft.cost("who is not told", 0.8)
            if _SOME_PEOPLE & set(draft.words) and any(self._counts_things(q) for q in ask.quantities):
                # How many people have done first aid is told of people, and not by how many courses are called so.
                draft.cost("people told by other rows", 0.7)
            if _HOW_OFTEN & set(draft.words) and any(
                isinstance(o.by, m.Aggregated) and o.by.function not in ("count", "distinct") for o in ask.order
            ):
                # Who stayed most often is told by how many stays there were, and by nothing that stands on them.
                draft.cost("how often is counted", 0.6)
            if "where" in draft.asks() and ask.order and _counts_most(draft):
                # Where most of them come from asks for places, and not for the largest of them.
                placed = self._where_most(ask, draft)
                if placed is not None:
                    ask = placed
                else:
                    unread.update(sequence.edges[i].start for i, a in draft.of(Asking) if a.what == "where")
                    draft.cost("where is not told", 1.0)
            if _tells_how_far(ask) and _WH & set(draft.words):
                # In which months was it above a hundred asks for months, and not whether it was.
                draft.cost("how far from a number", 8.0)
            people = bool(ask.groups and not ask.quantities) or "who" in draft.asks()
            people |= any(t != ask.head for _, t in self._tables_named(draft))
            if people and _HAS_NOT & set(draft.words) and _denies_of_rows(ask.where):
                # Who has not come since June has no rows since then, whatever there was before.
                draft.cost("other times of those who have not", 1.3)
            born_on = [
                i
                for i, part in draft.of(Part)
                if any(
                    isinstance(p, m.PartIs) and p.unit == "weekday" and self._is_of_birth(p.time, ask.head)
                    for p in m.parts(part.condition)
                )
            ]
            by_birth = any(isinstance(g, m.PartOf) and isinstance(g.of, m.EventTime) for g in ask.groups) and any(
                isinstance(g, m.PartOf) and self._is_of_birth(g.of, ask.head) for g in ask.groups
            )
            if (born_on or by_birth) and not BIRTH & {stem(w) for w in draft.words}:
                for i in born_on:
                    # What is done on Fridays is done by whoever it is, whenever they were born.
                    unread.update(range(sequence.edges[i].start, sequence.edges[i].end))
                    draft.cost("by birth", 1.5)
                if by_birth:
                    # Pupils by year are seldom told by when they were born.
                    draft.cost("by birth", 0.35)
            ask = self._then(self._never_of_all(_until_they_left(self._from_before(ask, draft), draft), draft), draft)
            ask = holding_all(self._of_those_there(self._each_ones_latest(ask, draft), draft), draft.words, self.nouns)
            ask = self._when_below(
                self._when_so_often(_when_it_was(self._when_decided(ask), self.nouns.dates), draft), draft
            )
            ask = self._of_hundreds(self._beyond_plan_in_percent(self._by_their_averages(ask), draft))
            # Customers with both a home and a car policy are counted, and no policies.
            one = next(iter(m.counted_in(ask.quantities)), ask.head)
            ask = self._those_without(ask.but(where=tuple(self.of_several(one, c) for c in ask.where)))
            ask = self._over_in_all(self._judged_kinds(self._of_known_bands(ask), draft), draft)
            if not ask.groups and any(isinstance(q, m.Along) and q.kind == "rank" for q in ask.quantities):
                # One number has no rank.
                return None
            if self._is_of_another_doing(ask, tokens):
                # Tonnes harvested are those of the harvest, and not those that were sold.
                draft.cost("rows of another doing", 0.35)
            own = all(k.table == ask.head for k in m.columns_in((ask.groups, ask.shows)))
            roles = self.nouns.vocabulary.roles
            same = any(isinstance(c, m.Not) and isinstance(c.item, m.Has) and not c.item.rows.where for c in ask.where)
            if same and ask.head in roles and ask.groups and not ask.quantities:
                # Departments that people have are none that nobody has, whoever manages them.
                draft.cost("rows without themselves", 1.5)
            if own and any(isinstance(c, m.Not) and c.item == m.Has(m.Rows(ask.head)) for c in ask.where):
                # Of clubs that are there none is without a club.
                draft.cost("rows without themselves", 1.5)
            if any(h.quantity == h.right and not h.overall for h in ask.having):
                # Nothing is more or less than itself.
                continue
            features = {"pieces": sequence.score, **draft.features}
            score = sum(features.values())
            if bar is not None and bar.is_above(score):
                continue
            ask = self._in_its_periods(self._of_noughts(self._of_sums(ask)))
            ask = _none_of_each_kind(ask, self.catalogue)
            ask = _none_of_such(_each_figure(self._averaged_apart(self._on_birthdays(ask, draft))), self.catalogue)
            if not any(part.kind == "state" for _, part in draft.of(Part)):
                # A draw is one of its own two scores.
                ask = self._when_sums_differ(ask)
            ask = self._by_own_names(_shares_of_years(self._by_own_days(ask)))
            ask = self._per_those_there(self._by_own_date(ask))
            ask = self._of_latest(_one_figure(self._by_the_heads_time(_one_axis(ask, self.nouns.dates))))
            ask = self._as_it_stands(ask, draft)
            ask = self._of_one_row(self._those_counted(self._of_totals(ask), draft), draft)
            ask = over_time_on_two_axes(with_ends_of_tiles(self._by_their_orders(ask, draft)))
            ask = self._told_apart(with_their_counts(self._with_names(self._of_known(ask)), self.catalogue))
            yield Candidate(
                ask,
                tuple(e for i, e in enumerate(sequence.edges) if i not in left),
                tuple(sorted(unread)),
                tuple(features.items()),
                score,
                follows,
            )

    def _said_beside(self, leaf: Edge, tokens: Sequence[Token]) -> list[int]:
        """The places of words that were taken with a column's name and are no part of what is known of it."""
        noun = leaf.value
        if leaf.category not in ("M", "C") or leaf.end - leaf.start < 2 or leaf.score > _HALF_NAMED:
            return []
        if not isinstance(noun, Noun) or noun.key is None:
            return []
        words = self.nouns.vocabulary.columns[noun.key]
        table = self.nouns.vocabulary.tables[noun.key.table]
        known = {*words.parts, *words.full, *words.described, *table.parts, *(w for s in words.synonyms for w in s)}
        known |= {w for c in words.clauses for w in c}
        if self.nouns.column(noun.key).role is Role.MONEY:
            known |= {stem(w) for w in ("money", "amount", "sum", "cash")}
        return [
            p
            for p in range(leaf.start, leaf.end)
            if word_weight(tokens[p]) == 1.0 and not any(lexicon.related(tokens[p].stem, k) for k in known)
        ]

    def _is_a_thing(self, leaf: Edge, tokens: Sequence[Token]) -> bool:
        """True for the name of a table's rows, of which one or some are spoken of, that was taken for a measure."""
        if leaf.category not in ("E", "M", "MV"):
            return False
        # To settle a claim, or a claim alone.
        starts = range(max(leaf.start, 1), leaf.end)
        start = next((p for p in starts if tokens[p - 1].lower in _ONE_OF or tokens[p - 1].number is not None), None)
        if start is None:
            return False
        stems = tuple(t.stem for t in tokens[start : leaf.end])
        return any(score >= 0.97 for score, _ in self.nouns.vocabulary.tables_for(stems)[:1])

    def _whole_names(self, words: tuple[str, ...]) -> tuple[tuple[int, int], ...]:
        """Where several words in a row are the whole name of a column, the longest only."""
        if self._names_in[0] != words:
            vocabulary = self.nouns.vocabulary
            found: list[tuple[int, int]] = []
            for size in (4, 3, 2):
                for start in range(len(words) - size + 1):
                    span = words[start : start + size]
                    inside = any(a <= start and start + size <= b for a, b in found)
                    if not inside and span in vocabulary.names_of_columns:
                        found.append((start, start + size))
            self._names_in = words, tuple(found)
        return self._names_in[1]

    def _is_kinds_of_a_key(self, noun: Noun) -> bool:
        """True for the kinds of what tells rows apart, which are no kinds."""
        if not noun.kinds or noun.key is None:
            return False
        return self.nouns.names_rows(noun.key) or self.nouns.column(noun.key).role is Role.LINK

    def _happening_to(self, table: str) -> list[str]:
        """The tables whose rows are of rows of a table, those that tell when something happened first."""
        found = [
            t.name
            for t in self.catalogue.tables
            if t.name != table
            and self.catalogue.path(t.name, table) is not None
            and t.name not in self.nouns.vocabulary.weights
        ]

        def rank(name: str) -> tuple[bool, int]:
            return not self._happens(name), -self.catalogue.table(name).rows

        return sorted(found, key=rank)

    def _done_below(self, table: str) -> list[str]:
        """What tells of something done, and of no birth, those that point at a table first: owners came to visits."""
        below = (*self.nouns.children(table), *self._happening_to(table))
        return [t for t in below if self._happens(t)]

    def _doings_of(self, table: str) -> str:
        """The table of what happens to the rows of one, by which it is told how busy they are: the visits of dogs."""
        above = {link.other for link in self.catalogue.parents(table)} - self.nouns.vocabulary.shared
        own = self._happens(table) and bool(above)
        return table if own else next((t for t in self._happening_to(table) if self._happens(t)), table)

    def _liked_by(self, draft: Draft, table: str, where: Sequence[m.Condition]) -> str:
        """The rows by which a kind is popular: a genre by the loans of its books, also those to some of the readers."""
        # The genre borrowed most is that of most loans.
        below = self._done_to(draft, table) or self._doings_of(table)
        others = [t for c in where for t in tables_of(c)]
        apart = any(self.catalogue.path(table, t) is None for t in others)
        together = all(self.catalogue.path(below, t) is not None for t in others)
        done = (_LIKED | _BUSY) & set(draft.words) or self._done_to(draft, table) is not None
        return below if together and (apart or done) else table

    def _repeating(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """Repeat customers by region: those of more than one order, counted in each, and not the regions of more than one."""
        told = bool(pieces.of(Grouped) or pieces.of(Shared))
        again = {
            i
            for i, h in pieces.of(Held)
            if told and h.quantity == Counted(Noun()) and _REPEATING & set(pieces.words[pieces.edges[i].start :][:1])
        }
        counted = any(isinstance(v, (*_MEASURING, Worked)) and v != Counted(Noun()) for _, v in pieces.items)
        for i, value in pieces.items:
            noun = next((n for j, n in pieces.of(Noun) if j == i and i in again), None)
            match value:
                case Held() if noun is not None and (such := self._more_than_once(noun)) is not None:
                    yield i, Part(such, "related")
                case Noun() if noun is not None and not counted:
                    yield i, Counted(noun, distinct=noun.key is not None)
                case Counted(noun=Noun(table=None, key=None, unknown="")) if again and not counted:
                    pieces.settled |= {i}
                case _:
                    yield i, value

    def _more_than_once(self, noun: Noun) -> m.Condition | None:
        """That something is told of a thing more than once."""
        if noun.table is not None:
            rows = next(iter(self._happening_to(noun.table)), None)
            return m.Has(m.Rows(rows), ">", 1) if rows is not None else None
        if noun.key is None:
            return None
        often = self.nouns.counted(noun.key.table)
        return m.Among(
            noun.key,
            m.Ask(
                noun.key.table,
                quantities=(often,),
                groups=(m.Col(noun.key),),
                having=(m.Having(often, ">", m.Number(1.0)),),
            ),
        )

    def _so_often(self, draft: Draft, place: int, value: object) -> Iterator[object]:
        """Those who came more than five times, or the share of them: of whom there are so many visits."""
        nouns = [*draft.of(Noun), *((i, c.noun) for i, c in draft.of(Counted))]
        named = [(i, n.table) for i, n in sorted(nouns, key=lambda n: n[0]) if i < place and n.table is not None]
        match value:
            case Part(condition=m.Has(rows=m.Rows(table, ()), op=op, number=number)) if any(
                t == table for _, t in named
            ):
                # Borrowers who have borrowed so often did so in their loans.
                edge = draft.edges[place]
                told = (self._done_by(draft, w) for w in draft.words[edge.start : edge.end])
                did = next((d for d in told if d is not None), table)
                yield Part(m.Has(m.Rows(did), op, number), "related")
            case Held(quantity=Counted(noun=noun), op=op, right=float(often)) if noun == Noun() and often.is_integer():
                shared = [s.of.table for _, s in draft.of(Shared) if isinstance(s.of, Noun) and s.of.table is not None]
                verb = draft.words[draft.edges[place].start - 1]
                done: str | None = None
                if len(shared) == 1:
                    done = next(iter(self._happening_to(shared[0])), None)
                elif len(named) > 1 and named[-1][0] == place - 1:
                    # Policies claimed on at least twice have so many claims.
                    done = named[-1][1]
                    draft.settled |= {place - 1}
                elif named:
                    done = self._done_by(draft, verb)
                elif "who" in draft.asks() and not draft.of(Grouped):
                    people, doers = self._who_might_have(verb)
                    who = Noun(table=people) if people is not None else next((Noun(key=k) for k in doers), None)
                    done = self._done_by(Draft(draft.edges, ((place, who),), draft.words), verb) if people else None
                    if who is not None:
                        yield who if people is not None else Grouped(who)
                flat = [n.key.table for i, n in draft.of(Noun) if i < place and n.key is not None]
                below = [t for i, p in draft.of(Part) if i == place - 1 for t in tables_of(p.condition)]
                if not named and flat and len(below) == 1 and self.catalogue.path(below[0], flat[0]):
                    # Tenants who paid late so often did so in what tells of it, and not in how often they moved in.
                    yield dataclasses.replace(value, quantity=Counted(Noun(table=below[0])))
                elif done is not None and done != next((t for _, t in named), None):
                    such = [(i, p.condition) for i, p in draft.of(Part) if i == place - 1]
                    such = [(i, c) for i, c in such if tables_of(c) == [done]]
                    draft.settled |= {i for i, _ in such}
                    yield Part(m.Has(m.Rows(done, tuple(c for _, c in such)), op, int(often)), "related")
                else:
                    yield value
            case _:
                yield value

    def _when_below(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Animals that came in for their skin in 2025: the year is that of the visit, and not that of their birth."""
        head = ask.head
        times = [c for c in ask.where if isinstance(c, (m.Within, m.PartIs)) and isinstance(c.time, m.EventTime)]
        if not times or any(m.times_in(g) for g in ask.groups if isinstance(g, m.Test)):
            return ask
        if any(isinstance(g, m.PartOf) for g in ask.groups) or any(
            tables_of(q) not in ([], [head]) for q in ask.quantities
        ):
            return ask
        carried: dict[str, list[m.Condition]] = {}
        for condition in ask.where:
            beyond = [t for t in tables_of(condition) if self.catalogue.path(head, t) is None]
            if condition in times or not beyond or isinstance(condition, (m.Has, m.Among, m.Not)):
                continue
            rows = lowest_table([head, *tables_of(condition)], self.catalogue)
            if rows is not None and rows != head and self._happens(rows):
                carried.setdefault(rows, []).append(condition)
        if len(carried) != 1:
            rows = next((t for t in self._happening_to(head) if self._happens(t)), None)
            if carried or rows is None or self._happens(head) or BIRTH & {stem(w) for w in draft.words}:
                return ask
            carried = {rows: []}
            draft.cost("when something happened to them", 0.15)
        rows, own = next(iter(carried.items()))
        then = m.Has(m.Rows(rows, (*own, *times)))
        return ask.but(where=(*(c for c in ask.where if c not in own and c not in times), then))

    def _when_decided(self, ask: m.Ask) -> m.Ask:
        """What was won this year was decided then, whenever it began."""
        ended = [
            c
            for c in ask.where
            if isinstance(c, m.Is) and c.values and all(DECIDED & set(word_stems(str(v))) for v in c.values)
        ]
        times = [c for c in ask.where if isinstance(c, (m.Within, m.PartIs)) and isinstance(c.time, m.EventTime)]
        named = [g for g in ask.groups if isinstance(g, m.PartOf) and isinstance(g.of, m.Col)]
        if len(ended) != 1 or not times or named:
            return ask
        table = ended[0].column.table
        dates = (m.ColumnKey(table, c.name) for c in self.catalogue.table(table).columns if c.type.is_time)
        told = next((k for k in dates if _ENDING & set(self.nouns.vocabulary.columns[k].parts)), None)
        if told is None or ask.head != table:
            return ask
        change: dict[object, object] = {m.EventTime(): m.Col(told)}
        return ask.but(where=tuple(m.replaced(c, change) if c in times else c for c in ask.where))

    def _by_the_heads_time(self, ask: m.Ask) -> m.Ask:
        """What is worked out of other rows than those a question is of still happened when these did."""
        time = event_time(self.catalogue, ask.head)
        if time is None or not any(m.EventTime() in m.times_in(c) for c in ask.where):
            return ask
        for quantity in ask.quantities:
            tables = {*tables_of(quantity), *m.counted_in(quantity)}
            timed = (
                event_time(self.catalogue, t) is not None and self.catalogue.path(t, ask.head) is None for t in tables
            )
            if tables and ask.head not in tables and not all(timed):
                change: dict[object, object] = {m.EventTime(): m.Col(time)}
                return ask.but(where=tuple(m.replaced(c, change) for c in ask.where))
        return ask

    def _are_unlike(self, left: m.Expr, right: object) -> bool:
        """True for an amount of money and what is a number, or a length of time, of something else."""
        if not isinstance(right, m.Col) or not isinstance(left, (m.Col, m.Length)):
            return False
        keys = [e.key for e in (left, right) if isinstance(e, m.Col)]
        if isinstance(left, m.Col) and any(PLANNED & set(self.nouns.vocabulary.columns[k].parts) for k in keys):
            # A budget may stand without a word for money on one of its sides.
            return False
        if any(not self.nouns.column(k).is_measure for k in keys):
            return False
        return len({*map(self._is_money, keys)} | ({False} if isinstance(left, m.Length) else set())) == 2

    def _counts_figures(self, ask: m.Ask) -> bool:
        """True where rows of a table of figures are counted of which one figure was named."""
        told = {named for named, _ in self.nouns.vocabulary.figures}
        said = {c.column for c in ask.where if isinstance(c, m.Is)} & told
        counted = {q.table for q in ask.quantities if isinstance(q, m.Aggregated) and q.expr is None}
        return bool(said) and counted <= {k.table for k in said} and bool(counted)

    def _is_of_another_doing(self, ask: m.Ask, tokens: Sequence[Token]) -> bool:
        """Whether another table has a column called alike, and a word of the question names its rows and not these."""
        keys = {k for q in ask.quantities for k in m.columns_in(q)}
        if len(keys) != 1 or m.counted_in(ask.quantities):
            return False
        key = keys.pop()
        columns, tables = self.nouns.vocabulary.columns, self.nouns.vocabulary.tables
        alike = [k for k, w in columns.items() if w.parts == columns[key].parts and k.table != key.table]
        if not alike:
            return False
        said = {t.stem for t in tokens} - {p for w in columns.values() for p in w.parts}
        return not said & {*tables[key.table].parts} and any(said & {*tables[k.table].parts} for k in alike)

    def _on_birthdays(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Who has a birthday in a month was born in it, in whatever year."""
        if not {"birthday", "birthdays"} & set(draft.words):
            return ask
        born: dict[object, object] = {}
        for part in m.parts(ask.where):
            match part:
                case m.Within(m.Col(key) as time, dt.date() as low, dt.date() as high) if is_birth(
                    self.nouns.vocabulary, key
                ) and (low.year, low.month) == (high.year, high.month):
                    born[part] = m.PartIs("month", time, (low.month,))
                case _:
                    pass
        return m.replaced(ask, born) if born else ask  # type: ignore[return-value]

    def _averaged_apart(self, ask: m.Ask) -> m.Ask:
        """How far two grades lie apart is told by their averages, since neither is added up."""
        apart: dict[object, object] = {}
        for part in m.parts(ask.quantities):
            match part:
                case m.Combined(
                    "-" | "+", m.Aggregated("sum", m.Col() as one), m.Aggregated("sum", m.Col() as two)
                ) if self.nouns.function(one) == self.nouns.function(two) == "mean":
                    averages = m.Aggregated("mean", one), m.Aggregated("mean", two)
                    apart[part] = dataclasses.replace(part, left=averages[0], right=averages[1])
                case _:
                    pass
        return m.replaced(ask, apart) if apart else ask  # type: ignore[return-value]

    def _when_sums_differ(self, ask: m.Ask) -> m.Ask:
        """Days on which more was wasted than sold: what both come to on the day, and not on each of its rows."""
        timed = len(ask.groups) == 1 and isinstance(ask.groups[0], m.PartOf)
        counted = all(isinstance(q, m.Aggregated) and q.function == "count" and not q.where for q in ask.quantities)
        held = [
            c
            for c in ask.where
            if isinstance(c, m.Compared) and isinstance(c.left, m.Col) and isinstance(c.right, m.Col)
        ]
        if not timed or not counted or len(held) != 1 or ask.having:
            return ask
        left, right = held[0].left, held[0].right
        assert isinstance(left, m.Col) and isinstance(right, m.Col)
        if not all(self.nouns.column(e.key).is_measure and self.nouns.function(e) == "sum" for e in (left, right)):
            return ask
        one, two = m.Aggregated("sum", left), m.Aggregated("sum", right)
        rest = tuple(c for c in ask.where if c is not held[0])
        return ask.but(where=rest, quantities=(one, two), having=(m.Having(one, held[0].op, two),))

    def _by_own_days(self, ask: m.Ask) -> m.Ask:
        """Courses on Mondays are told by the day that stands on them, and not by the day on which they begin."""
        days = self.nouns.days_told.get(ask.head)
        if days is None:
            return ask
        change: dict[object, object] = {}
        for part in m.parts(ask.where):
            if isinstance(part, m.PartIs) and part.unit == "weekday":
                names = tuple(DAY_NAMES[n - 1].lower()[:3] for n in part.numbers)
                held = tuple(v for v in days.values if v.lower().startswith(names))
                change |= {part: m.Is(m.ColumnKey(ask.head, days.name), held)} if held else {}
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _by_own_names(self, ask: m.Ask) -> m.Ask:
        """What is measured is told by the names that stand on its own rows, before the codes of another table."""
        tables = {*tables_of(ask.quantities), *m.counted_in(ask.quantities)}
        if len(tables) != 1 or ask.kept:
            return ask
        (own,) = tables
        change: dict[object, object] = {}
        for group in ask.groups:
            if not isinstance(group, m.Col):
                continue
            key = group.key
            if key.table != own:
                links = (r for r in self.catalogue.parents(own) if (r.other, r.other_column) == key)
                key = next((m.ColumnKey(own, r.column) for r in links), key)
            named = self.catalogue.table(group.key.table).naming_column
            if key.table == own and named in (None, self.nouns.column(group.key)):
                told = self.nouns.vocabulary.telling(key)
                if told != group.key and self.nouns.column(told).role in (Role.NAME, Role.CATEGORY, Role.PLACE):
                    change[group] = m.Col(told)
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _per_those_there(self, ask: m.Ask) -> m.Ask:
        """Visits a vet in 2025 are told by the vets who had visits then, and not by those who were hired then."""
        if not _is_of_a_time(ask):
            return ask
        change: dict[object, object] = {}
        scaled = {q.left for q in m.parts(ask.quantities) if isinstance(q, m.Combined) and q.op == "*"}
        for ratio in m.parts(ask.quantities):
            match ratio:
                case m.Combined(op="/", left=m.Aggregated() as left, right=m.Aggregated("count", None, str(each), ())):
                    for table in (left.table, *tables_of(left.expr)):
                        path = self.catalogue.path(table, each) if table not in (None, each) else None
                        if path and ratio not in scaled:
                            key = m.Col(m.ColumnKey(path[-1].table, path[-1].column))
                            there = m.Aggregated("distinct", key, table)
                            change[ratio] = dataclasses.replace(ratio, right=there)
                case _:
                    pass
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _by_own_date(self, ask: m.Ask) -> m.Ask:
        """What is due in October is told by the day it is due, and what was paid by the day it was paid."""
        if not _is_of_a_time(ask):
            return ask
        keys = {k for q in ask.quantities for k in m.columns_in(q)}
        if len(keys) != 1 or len(ask.quantities) != 1 or not isinstance(ask.quantities[0], m.Aggregated):
            return ask
        key = keys.pop()
        words, table = self.nouns.vocabulary.columns, self.catalogue.table(key.table)
        usual = event_time(self.catalogue, key.table)
        if usual is None or usual.table != key.table or not self.nouns.column(key).is_measure:
            return ask
        own = set(words[key].parts) - _SAID_OF_ANY
        dated = [m.ColumnKey(key.table, c.name) for c in table.columns if c.type.is_time]
        alike = [k for k in dated if own & (set(words[k].full) - _SAID_OF_ANY)]
        if len(alike) != 1 or usual in alike:
            return ask
        return m.replaced(ask, {m.EventTime(): m.Col(alike[0])})  # type: ignore[return-value]

    def _are_troubles(self, key: m.ColumnKey) -> bool:
        """True for a column that tells what went wrong on the few rows on which anything did."""
        column, table = self.nouns.column(key), self.catalogue.table(key.table)
        told = bool((lexicon.troubles() | _DOINGS | _GAINS) & set(self.nouns.vocabulary.columns[key].parts))
        return told and column.type is Type.TEXT and column.distinct <= 60 and 2 * column.missing > table.rows

    def _are_doings(self, key: m.ColumnKey) -> bool:
        """True for the few kinds of what is done on the rows of a table, each of them many times: its trips."""
        column, table = self.nouns.column(key), self.catalogue.table(key.table)
        kinds = column.type is Type.TEXT and 0 < 20 * column.distinct <= table.rows
        return kinds and self.nouns.vocabulary.columns[key].head in _DOINGS and self._happens(key.table)

    def _happens(self, table: str) -> bool:
        """True for rows that have a time of their own that is nobody's birth."""
        time = event_time(self.catalogue, table)
        return time is not None and not is_birth(self.nouns.vocabulary, time)

    def _does_nothing(self, rows: str, ask: m.Ask, counted: Sequence[str]) -> bool:
        """True for a table below what is counted that nothing in a meaning is about."""
        if rows in counted or not any(self.catalogue.path(rows, t) is not None for t in counted):
            return False
        return rows not in m.tables_in(ask)

    def _when_so_often(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Animals that came three times in 2025 did so then, whenever they were born."""
        often = [i for i, h in draft.of(Held) if h.quantity == Counted(Noun())]
        often += [i for i, p in draft.of(Part) if p.kind == "related" and isinstance(p.condition, m.Has)]
        times = [p.condition for i, p in draft.of(Part) if p.kind == "time" and i - 1 in often]
        if len(times) != 1:
            return ask
        parts = m.parts((ask.where, ask.quantities))
        held = list({p for p in parts if isinstance(p, m.Has) and not m.times_in(p.rows.where)})
        rows = held[0].rows if len(held) == 1 else None
        if rows is None or event_time(self.catalogue, rows.table) is None:
            return ask
        dates = (m.ColumnKey(rows.table, c.name) for c in self.catalogue.table(rows.table).columns if c.type.is_time)
        # The word for what they did may have said by now which day of it is meant.
        meant = {times[0], *(m.replaced(times[0], {m.EventTime(): m.Col(k)}) for k in dates)}
        told = next((c for c in ask.where if c in meant), None)
        if told is None or self.catalogue.path(rows.table, ask.head) is None:
            return ask
        then = dataclasses.replace(held[0], rows=m.Rows(rows.table, (*rows.where, told)))
        rest = ask.but(where=tuple(c for c in ask.where if c != told))
        return m.replaced(rest, {held[0]: then})  # type: ignore[return-value]

    @functools.cached_property
    def _kept(self) -> list[tuple[m.ColumnKey, m.ColumnKey]]:
        return before_and_after(self.nouns.vocabulary)

    def _beyond_plan_in_percent(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """An overrun in percent is of what was planned, and no share of all overruns."""
        if "total" in draft.words:
            return ask
        change: dict[object, object] = {}
        for quantity in ask.quantities:
            match quantity:
                case m.Along(m.Combined("-", _, m.Aggregated(expr=m.Col(planned)) as base) as beyond, "share"):
                    pass
                case m.Along(
                    m.Aggregated("sum" | "mean", m.Arithmetic("-", m.Col(was), m.Col(left)) as lost), "share"
                ) if (was, left) in self._kept:
                    # What was lost in percent is of what there was before.
                    base, beyond = m.Aggregated("sum", m.Col(was)), m.Aggregated("sum", lost)
                    change[quantity] = m.Combined("/", beyond, base, percent=True)
                    continue
                case m.Along(m.Aggregated("sum", m.Arithmetic("-", _, m.Col(planned))) as beyond, "share"):
                    base = m.Aggregated("sum", m.Col(planned))
                case _:
                    continue
            if PLANNED & set(self.nouns.vocabulary.columns[planned].parts):
                change[quantity] = m.Combined("/", beyond, base, percent=True)
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _of_hundreds(self, ask: m.Ask) -> m.Ask:
        """Value times probability, where that is told in per cent, is so many hundredths of the value."""
        change: dict[object, object] = {}
        for quantity in ask.quantities:
            match quantity:
                case m.Aggregated(expr=m.Arithmetic("*", m.Col(one), m.Col(two)) as product):
                    if sum(self._is_of_a_hundred(k) for k in (one, two)) == 1:
                        change[product] = m.Arithmetic("/", product, m.Number(100.0))
                case _:
                    pass
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _is_of_a_hundred(self, key: m.ColumnKey) -> bool:
        """True for a column that tells so many of a hundred: a percentage, or a probability up to 100."""
        column = self.nouns.column(key)
        told = column.role is Role.PERCENTAGE or bool(_OF_A_HUNDRED & set(self.nouns.vocabulary.columns[key].parts))
        return told and column.type.is_number and column.high is not None and 1.5 < float(column.high) <= 100

    def _by_their_averages(self, ask: m.Ask) -> m.Ask:
        """Pupils whose marks are below the average of their class: the average of each is held against that."""
        head = next(iter(m.counted_in(ask.quantities)), ask.head)
        key = self.catalogue.table(head).key
        where: list[m.Condition] = []
        for condition in ask.where:
            match condition:
                case m.Compared(left=m.Col(told) as left, right=m.Below(m.Aggregated("mean" | "median"))) if (
                    key is not None and told.table != head and self.catalogue.path(told.table, head)
                ):
                    own = m.Below(self.nouns.aggregate(left), m.ColumnKey(head, key.name))
                    where.append(dataclasses.replace(condition, left=own))
                case _:
                    where.append(condition)
        return ask.but(where=tuple(where))

    def _is_only_numbered(self, table: str) -> bool:
        """True where nothing but a number tells the rows of a table apart, which says nothing of what they are."""
        told = self.catalogue.table(table).naming_column
        return told is not None and told.type.is_number

    def _told_apart(self, ask: m.Ask) -> m.Ask:
        """The first of each owner is that of each by their number, where two have the same name."""
        if not ask.lists or not ask.per:
            return ask
        shows: list[m.Expr] = []
        per = ask.per
        for place, expr in enumerate(ask.shows):
            if place < ask.per and isinstance(expr, m.Col):
                identity = names_rows(expr.key, self.catalogue)
                if identity is not None:
                    shows.append(m.Col(identity))
                    per += 1
            shows.append(expr)
        return ask.but(shows=tuple(shows), per=per)

    def _either(self, head: str, condition: m.All) -> m.Condition | None:
        """At both Millbeck and Sandhythe, of visits, each of which is at one: at either."""
        values: list[str | int | float | bool] = []
        columns = set()
        for item in condition.items:
            match item:
                case m.Has(rows=m.Rows(table=table, where=(m.Is(column=column, values=held),)), op=">=", number=1):
                    if self.catalogue.path(head, table) is None:
                        return None
                    values += held
                    columns.add(column)
                case _:
                    return None
        return m.Is(columns.pop(), tuple(values)) if len(columns) == 1 else None

    def of_several(self, head: str, condition: m.Condition) -> m.Condition:
        """Animals seen at two or more clinics: so many different clinics stand on the rows that are of both."""
        if isinstance(condition, m.All) and (either := self._either(head, condition)) is not None:
            return either
        if not isinstance(condition, m.Has) or (condition.number < 2 and (condition.op, condition.number) != (">", 1)):
            return condition
        other, path = condition.rows.table, self.catalogue.path
        keys = [self.catalogue.table(t).key for t in (head, other)]
        if path(other, head) is not None or keys[0] is None or keys[1] is None:
            return condition
        both = [t.name for t in self.catalogue.tables if path(t.name, head) and path(t.name, other)]
        if not both:
            return condition
        rows = max(both, key=lambda t: self.catalogue.table(t).rows)
        own, each = (m.ColumnKey(t, k.name) for t, k in zip((head, other), keys, strict=True) if k is not None)
        number = m.Aggregated("distinct", m.Col(each))
        held = m.Having(number, condition.op, m.Number(condition.number))
        return m.Among(own, m.Ask(rows, condition.rows.where, (number,), (m.Col(own),), having=(held,)))

    def _never_of_all(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Owners who never came: of theirs there is no visit to which anybody came."""
        if "never" not in draft.words:
            return ask
        for condition in ask.where:
            came_so = self._came_values(condition) if isinstance(condition, m.Is) else ()
            if not isinstance(condition, m.Is) or not came_so:
                continue
            table = condition.column.table
            if table != ask.head and self.catalogue.path(table, ask.head) is not None:
                came = m.Has(m.Rows(table, (m.Is(condition.column, came_so),)))
                return ask.but(where=tuple(m.Not(came) if c == condition else c for c in ask.where))
        match ask:
            case m.Ask(where=(condition,), quantities=(), groups=(m.Col(),), having=(), head=head) if (
                not is_time(condition) and event_time(self.catalogue, head) is not None
            ):
                # Pickers who never got a bonus have none on any of their rows.
                did = dataclasses.replace(self.nouns.counted(head), where=(_denied(condition),))
                return ask.but(where=(), quantities=(did,), having=(m.Having(did, "=", m.Number(0.0)),))
            case _:
                return ask

    def _came_values(self, missed: m.Is) -> tuple[str | int | float | bool, ...]:
        """The values of a column that say that somebody came, where one says that they did not."""
        if missed.values == (False,):
            return (True,)

        def came(value: object) -> bool:
            said = set(word_stems(value)) if isinstance(value, str) else set()
            return bool(_CAME & said) and not _MISSED & said

        values = self.nouns.column(missed.column).values
        return () if any(map(came, missed.values)) else tuple(v for v in values if came(v))

    def _then(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """How old they were at a visit, or when they came: until it happened, and not until today."""
        time = event_time(self.catalogue, ask.head)
        if time is None or not {"at", "when"} & set(draft.words):
            return ask
        ages = {
            p: dataclasses.replace(p, end=m.Col(time))
            for p in m.parts(ask)
            if isinstance(p, m.Length) and p.unit == "whole_years" and isinstance(p.end, m.Today)
        }
        words = draft.words
        at = any(
            n.table == ask.head and "at" in words[max(draft.edges[i].start - 2, 0) : draft.edges[i].start + 1]
            for i, n in draft.of(Noun)
        )
        when = any(one == "when" and two in ("they", "it", "he", "she") for one, two in itertools.pairwise(words))
        if not ages or is_birth(self.nouns.vocabulary, time) or not (at or when):
            return ask
        return m.replaced(ask, ages)  # type: ignore[arg-type, return-value]

    def _from_before(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Days before arrival, where arriving is what the rows tell of, run from the date of theirs that lies before it."""
        lengths = [p for p in m.parts(ask) if isinstance(p, m.Length)]
        time = event_time(self.catalogue, ask.head) if lengths else None
        lasting = {p: p for p in lengths if _lasts_no_time(p, time)}
        begun = self._before(time) if lasting and time is not None else None
        if begun is not None:
            lasting = {p: dataclasses.replace(p, start=begun) for p in lasting}
            ask = m.replaced(ask, lasting)  # type: ignore[arg-type, assignment]
        if any(_lasts_no_time(p, time) for p in lasting.values()):
            draft.cost("from a time to the same", 2.0)
        return ask

    def _before(self, time: m.ColumnKey) -> m.Col | None:
        """The first date of the same rows that does not begin later, and is no birthday."""
        own = self.nouns.column(time)
        for column in self.catalogue.table(time.table).columns:
            key = m.ColumnKey(time.table, column.name)
            earlier = column.type is own.type and key != time and (column.low or "") <= (own.low or "")
            if earlier and not is_birth(self.nouns.vocabulary, key):
                return m.Col(key)
        return None

    def _in_its_periods(self, ask: m.Ask) -> m.Ask:
        """What is told by the quarter or by the year is not seen by the month."""
        time = event_time(self.catalogue, ask.head)
        if time is not None and not self.nouns.column(time).type.is_time:
            # The latest quarter of what is told by the quarter, or by the year, is the last there is.
            where = tuple(m.at_end("max") if _is_of_the_latest(c) else c for c in ask.where)
            ask = ask.but(where=where) if where != ask.where else ask
        finer = [g for g in ask.groups if isinstance(g, m.PartOf) and g.unit in ("month", "week", "day")]
        if not finer or not all(isinstance(g.of, m.EventTime) for g in finer):
            return ask
        tables = {k.table for k in m.columns_in(ask.quantities)} or {ask.head}
        grains = {self.nouns.grain(t) for t in tables}
        if len(grains) != 1 or (grain := grains.pop()) == "month":
            return ask
        months = self.nouns.months_beside(next(iter(tables))) if len(tables) == 1 and grain == "year" else None
        if months is not None and all(g.unit == "month" for g in finer):
            # The year stands in one column and the month in another.
            year = m.PartOf("year", m.EventTime())
            whole = [c for c in ask.where if isinstance(c, m.Within) and c.low and c.high and c.low.year == c.high.year]
            groups = tuple(g for group in ask.groups for g in ((year, months) if group in finer else (group,)))
            return ask.but(groups=tuple(g for g in groups if g != year) if whole else groups)
        return m.replaced(ask, {g: dataclasses.replace(g, unit=grain) for g in finer})  # type: ignore[return-value]

    def _of_sums(self, ask: m.Ask) -> m.Ask:
        """What is left of one sum after another takes all of both, also where a row has only one of the two."""
        quantities = list(m.parts(ask.quantities))
        if not ask.quantities or any(isinstance(p, m.OverGroups) for p in quantities):
            return ask
        change: dict[object, object] = {}
        for part in quantities:
            match part:
                case m.Aggregated(
                    function="sum", expr=m.Arithmetic(op="-", left=m.Col() as one, right=m.Col() as two), where=()
                ) if self._is_added_up_with_gaps(one.key, two.key):
                    change[part] = m.Combined("-", m.Aggregated("sum", one), m.Aggregated("sum", two))
                case _:
                    pass
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _is_added_up_with_gaps(self, one: m.ColumnKey, two: m.ColumnKey) -> bool:
        columns = [self.nouns.column(k) for k in (one, two)]
        return one.table == two.table and all(c.role.is_summed for c in columns) and any(c.missing for c in columns)

    def _of_noughts(self, ask: m.Ask) -> m.Ask:
        """Trips without a tip have one of nought where every row has a number."""
        change: dict[object, object] = {}
        for part in m.parts(ask):
            if isinstance(part, m.Missing):
                column = self.nouns.column(part.column)
                if column.is_measure and not column.missing and column.low is not None and float(column.low) <= 0:
                    change[part] = m.Compared("=", m.Col(part.column), m.Number(0))
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _of_known(self, ask: m.Ask) -> m.Ask:
        """What there is most of, or what has so many, is one of those that are named: rows without it are none."""
        shares = any(isinstance(p, m.Along) and p.kind != "rank" for p in m.parts(ask.quantities))
        if shares or not ask.quantities or (ask.limit is None and not ask.having):
            return ask
        keys = [g.key for g in ask.groups if isinstance(g, m.Col) and self.nouns.column(g.key).missing]
        # What is ranked within each of something leaves those out that are of none.
        single = len({*tables_of(ask.quantities), *m.counted_in(ask.quantities)}) == 1 and ask.limit is not None
        outer = [g.key for g in ask.groups[: None if single else ask.per] if isinstance(g, m.Col)]
        for key in outer:
            link = next(iter(self.catalogue.path(ask.head, key.table) or ()), None)
            pointing = m.ColumnKey(link.table, link.column) if link is not None else key
            if pointing not in keys and self.nouns.column(pointing).missing:
                keys.append(pointing)
        known = [m.Not(m.Missing(k)) for k in keys if m.Missing(k) not in m.parts(ask.where)]
        return ask.but(where=(*ask.where, *known)) if known else ask

    def _of_totals(self, ask: m.Ask) -> m.Ask:
        """Where a category has a row for all of it together, that row is meant, or every row but that."""
        compared = any(isinstance(c, m.Compared) for c in ask.where)
        if not ask.quantities and not ask.order and not compared:
            return ask
        said = set(m.columns_in((ask.where, ask.quantities)))
        more: list[m.Condition] = []
        for key in self.nouns.with_totals(ask.head):
            if key not in said:
                totals = self.nouns.totals(key)
                all_of_it = m.Is(key, totals)
                grouped = m.Col(key) in (*ask.groups, *ask.shows) or self._stands_through(ask, key)
                # The highest of rows is one of them, and not of all of them together.
                grouped = grouped or (ask.lists and bool(ask.order))
                more.append(m.Not(all_of_it) if grouped else all_of_it)
        ask = ask.but(where=(*ask.where, *more)) if more else ask
        beside: dict[object, object] = {}
        for part in m.parts(ask.quantities):
            if isinstance(part, m.ShareOf) and part.expr is not None and not part.among:
                # Those over 65 are so many of all ages, which stand in a row of their own.
                keys = [k for k in m.columns_in(part.condition) if k in self.nouns.with_totals(ask.head)]
                whole = tuple(m.Is(k, self.nouns.totals(k)) for k in keys)
                those, everyone = (m.Aggregated("sum", part.expr, where=met) for met in (part.condition, whole))
                beside |= {part: m.Combined("/", those, everyone, percent=True)} if whole else {}
            tables = tables_of(part.expr) if isinstance(part, m.Aggregated) else []
            if isinstance(part, m.Aggregated) and len(tables) == 1 and tables[0] != ask.head:
                # What meets it from another table is told of all together there.
                keys = [k for k in self.nouns.with_totals(tables[0]) if k not in {*said, *m.columns_in(ask.groups)}]
                everywhere = tuple(m.Is(k, self.nouns.totals(k)) for k in keys)
                beside |= {part: dataclasses.replace(part, where=(*part.where, *everywhere))} if everywhere else {}
        ask = m.replaced(ask, beside) if beside else ask  # type: ignore[assignment]
        return self._of_one_unit(ask)

    def _of_one_unit(self, ask: m.Ask) -> m.Ask:
        """Figures that stand in several units in one column are told of each: millions and euros a head do not add up."""
        said = {*m.columns_in((ask.where, ask.quantities, ask.groups, ask.shows), nested=True)}
        units = [
            key
            for key in (m.ColumnKey(ask.head, c.name) for c in self.catalogue.table(ask.head).columns)
            if ask.quantities
            and self.nouns.vocabulary.columns[key].parts == ("unit",)
            and self.nouns.column(key).type is Type.TEXT
            and self.nouns.column(key).distinct > 1
            and self.nouns.vocabulary.values_of.get(ask.head) in m.columns_in(ask.quantities)
        ]
        return ask.but(groups=(*ask.groups, *map(m.Col, units))) if units and units[0] not in said else ask

    def _stands_through(self, ask: m.Ask, key: m.ColumnKey) -> bool:
        """True where a question asks of what a column points at: by the region of the area."""
        paths = [self.catalogue.path(key.table, k.table) for k in m.columns_in((ask.groups, ask.where, ask.shows))]
        columns = {path[0].column for path in paths if path}
        return any(c == key.column or self._tell_the_same(m.ColumnKey(key.table, c), key) for c in columns)

    def _tell_the_same(self, code: m.ColumnKey, name: m.ColumnKey) -> bool:
        """True for the code and the name of the same things beside each other: the code and the name of an area."""
        words = [set(self.nouns.vocabulary.columns[k].parts) for k in (code, name)]
        few = abs(self.nouns.column(code).distinct - self.nouns.column(name).distinct) <= 1
        return few and bool(words[0] & words[1])

    def _as_it_stands(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """The balance is what there is now: what stands on the rows of the last day."""
        now = (m.at_end("max"),)
        worked = bool(draft.of(Function)) or bool(draft.of(Worked) or ask.groups or ask.having or ask.order)
        if worked or len(ask.quantities) != 1 or ask.where not in ((), now):
            return ask
        (asked,) = ask.quantities
        stood = asked.expr if isinstance(asked, m.Aggregated) and asked.function == "mean" else None
        time = event_time(self.catalogue, ask.head)
        if not isinstance(stood, m.Col) or time is None or not runs_on(self.nouns.vocabulary, stood.key):
            return ask
        return ask.but(quantities=(), shows=(m.Col(time), stood), where=now)

    def _each_ones_latest(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """The latest rating of each place is that of its own last visit, where each was visited on days of its own."""
        latest = any(part.kind == "latest" for _, part in draft.of(Part)) and m.at_end("max") in ask.where
        own = all(isinstance(g, m.Col) for g in ask.groups) and bool(ask.groups)
        if not latest or not own or ask.order or ask.having or ask.across or self._is_panel(draft):
            return ask
        told = [q.expr for q in ask.quantities if isinstance(q, m.Aggregated) and not q.where]
        tables = {k.table for k in m.columns_in(told)}
        if len(told) != len(ask.quantities) or None in told or len(tables) != 1:
            return ask
        draft.cost("latest of what happened", -0.5)
        head = tables.pop()
        where = tuple(c for c in ask.where if c != m.at_end("max"))
        shows = (*ask.groups, *(e for e in told if e is not None))
        by_day = (m.Order(m.EventTime(), True),)
        return m.Ask(head, where, shows=shows, order=by_day, limit=1, per=len(ask.groups), chart=ask.chart)

    def _of_latest(self, ask: m.Ask) -> m.Ask:
        """How many people live somewhere is told of the last year there is, and not added up over the years."""
        stocks = [k for k in m.columns_in((ask.quantities, ask.having, ask.order)) if self.nouns.is_stock(k)]
        own = {k.table for k in stocks}
        timed = [
            p
            for p in m.parts((ask.where, ask.quantities, ask.groups, ask.having))
            if isinstance(p, (m.Within, m.PartIs, m.PartOf, m.EventTime))
            # When a country joined says nothing of the year that its people are counted in.
            and not (isinstance(p, (m.Within, m.PartIs)) and isinstance(p.time, m.Col) and p.time.key.table not in own)
        ]
        times = {event_time(self.catalogue, k.table) for k in stocks}
        told = {*(g.key for g in ask.groups if isinstance(g, m.Col)), *m.columns_in(ask.where)}
        if not stocks or timed or times & told:
            return ask
        again = self.nouns.vocabulary.is_told_again
        beside = {*tables_of(ask.quantities), *m.counted_in(ask.quantities)} - {k.table for k in stocks}
        if any(event_time(self.catalogue, t) is not None and not again(t) for t in beside):
            # Schools per inhabitant: what is not told again each year has no last year.
            change = {
                q: dataclasses.replace(q, where=(*q.where, m.at_end("max")))
                for q in m.parts(ask.quantities)
                if isinstance(q, m.Aggregated) and set(m.columns_in(q.expr)) & {*stocks}
            }
            return m.replaced(ask, change)  # type: ignore[arg-type, return-value]
        return ask.but(where=(*ask.where, m.at_end("max")), head=stocks[0].table)

    def _with_names(self, ask: m.Ask) -> m.Ask:
        """What is told by a code is told by its name as well."""
        told = ask.shows if ask.lists else ask.groups
        names: list[m.Expr] = []
        for key in (e.key for e in told if isinstance(e, m.Col)):
            link = next((r for r in self.catalogue.relationships if (r.table, r.column) == key), None)
            own = self.catalogue.table(key.table).key
            owner = (
                link.other if link is not None else key.table if own is not None and own.name == key.column else None
            )
            name = self.catalogue.table(owner).naming_column if owner is not None else None
            if owner is None:
                continue
            if link is not None and name is not None and link.other_column == name.name:
                # What points at rows by their name tells it already.
                continue
            if name is not None and name.role is Role.NAME:
                names.append(m.Col(m.ColumnKey(owner, name.name)))
            elif (person := self.nouns.person(owner)) is not None and self.nouns.is_of_people(owner):
                # A first name alone is nobody's.
                names.extend(self.nouns.split_name(owner) or (person,))
            elif (where := self.nouns.told_by(owner)) is not None:
                names.append(where)
        names = [n for n in dict.fromkeys(names) if n not in (*ask.shows, *ask.groups)]
        return ask.but(shows=(*ask.shows, *names)) if names else ask

    def _laid_across(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """A cross table where one is asked for: of two groups one goes down and the other across."""
        marks = {v.kind for _, v in draft.of(Marker)}
        named = [self.nouns.group(g.by) if isinstance(g.by, Noun) else g.by for _, g in draft.of(Grouped) if g.across]
        if not (named or "cross" in marks or ask.across):
            return ask
        if len(ask.groups) != 2 or len(ask.quantities) != 1 or ask.limit is not None:
            return ask.but(across=False, totals=False)
        one, two = ask.groups
        if any(_same_group(one, n) for n in named) and not any(_same_group(two, n) for n in named):
            one, two = two, one
        return ask.but(groups=(one, two), across=True, totals=ask.totals or "totals" in marks)

    def _idle(self, edge: Edge, ask: m.Ask) -> bool:
        """True for a piece that need not do anything: a word that only asks, or one that says again what is there."""
        value = edge.value
        if isinstance(value, (Asking, Charted)):
            return True
        if isinstance(value, Marker):
            if value.kind == "verb":
                return self._measures_like(ask, value.what)
            if value.kind in ("cross", "totals"):
                return ask.across or value.kind == "cross"
            if value.kind == "grew":
                # Whether it rose shows where two times, or a line of times, stand beside each other.
                timed = any(isinstance(g, m.PartOf) for g in ask.groups)
                return timed or any(isinstance(p, m.Between) for p in m.parts(ask.quantities))
            if value.kind == "compared":
                several = (c.column for c in ask.where if isinstance(c, m.Is) and len(c.values) > 1)
                return any(m.Col(key) in ask.groups for key in several)
            if value.kind == "their number":
                return edge.start > 0 and any(m.counts(q) for q in ask.quantities)
            if value.kind == "so many":
                return ask.lists and ask.limit == int(value.what)
            if value.kind == "stacked":
                return bool(ask.stacked) or is_long(ask, self.catalogue)
            return value.kind in ("with", "only", "those", "also", "idle", "definition")
        if isinstance(value, Noun):
            if value.key is not None:
                return value.key in m.columns_in(ask, nested=True)
            if value.table is not None:
                return value.table == ask.head or value.table in {k.table for k in m.columns_in(ask, nested=True)}
        if isinstance(value, Measured):
            return set(m.columns_in(value.expr)) <= set(m.columns_in(ask, nested=True))
        return False

    def _measures_like(self, ask: m.Ask, kind: str) -> bool:
        """True where a meaning works with what a verb of that kind is about: money, or any number."""
        columns = [self.nouns.column(k) for k in m.columns_in(ask, nested=True)]
        if kind == "money":
            return any(c.is_measure and (c.role is Role.MONEY or c.role.is_summed) for c in columns)
        return kind != "quantity" or any(c.is_measure for c in columns) or any(m.counts(q) for q in ask.quantities)

    # --- the ways a question can be meant

    def asks_of(self, pieces: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """Every meaning of some pieces, each with what was used of them."""
        pieces.items = tuple((i, self._as_condition(v)) for i, v in self._with_whose_each_is(_with_basis(pieces.items)))
        named = [t for _, t in self._tables_named(pieces)]
        pieces.items = tuple(
            (i, whose_end_was(v, named, self.catalogue) or v if isinstance(v, EndWas) else v) for i, v in pieces.items
        )
        if any(isinstance(v, (Leading, Bounded, EndWas)) for _, v in pieces.items):
            # What nothing here can tell leaves no question over.
            return
        many = ((i, self._as_many(pieces, i, v)) for i, v in pieces.items)
        pieces.items = tuple((i, one) for i, v in many for one in (v if isinstance(v, tuple) else (v,)))
        pieces.items, pieces.defined = _with_definition(_with_axis(pieces.items, self.nouns.dates))
        pieces.items = self._plans_at_a_time(pieces)
        pieces.items = tuple(self._repeating(pieces))
        before = pieces.settled
        often = [(i, v) for i, w in pieces.items for v in self._so_often(pieces, i, w)]
        pieces.items = tuple((i, v) for i, v in often if i not in pieces.settled - before)
        pieces.items = _of_such_rows(self._held_in_all(pieces), pieces)
        pieces.items = tuple(self._with_kinds_shared(pieces))
        pieces.items = self._with_their_number(pieces)
        pieces.items = tuple(self._counted_beside(pieces))
        pieces.items = tuple(self._of_common_kinds(pieces))
        pieces.items = tuple(self._counted_when(pieces))
        pieces.items = tuple(self._ranked_by_states(pieces))
        pieces.items = tuple(self._busy_with(pieces))
        pieces.items = self._ranked_by_record(pieces)
        self._weigh_days_of_others(pieces)
        pieces.items = self._all_ranked(pieces.items)
        pieces.items = self._of_stuff(pieces)
        pieces.items = self._not_in_that_time(pieces)
        pieces.items = self._along_once(pieces)
        pieces.items = tuple(self._by_their_kind(pieces))
        pieces.items = tuple(self._by_their_figure(pieces))
        pieces.items = tuple(self._summed_for_each(pieces))
        pieces.items = self._able(pieces)
        pieces.items = tuple(self._in_their_unit(pieces))
        pieces.items = tuple(self._of_units(pieces))
        pieces.items = (*self._over_the_time(pieces), *self._of_people_who_grow(pieces))
        pieces.items = _held_against_the_other(pieces)
        two_steps = self._in_two_steps(pieces) or self._of_those_held(pieces)
        if two_steps is not None:
            yield from self.asks_of(two_steps)
        kinds = {type(v) for _, v in pieces.items}
        if Laid in kinds:
            yield from self._laid_in_rows(pieces)
            return
        if Listing in kinds:
            yield from self._listed_with(pieces)
            return
        if Kinds in kinds:
            yield from self._kinds_of(pieces)
            return
        yield from self._those_that_had(pieces)
        if (along := self._tops_over_time(pieces)) is not None:
            yield from self.asks_of(along)
        if (beside := parts_beside(pieces.items, pieces.edges, pieces.words, self.nouns)) is not None:
            settled = pieces.settled | {i for i, _ in pieces.items} - {i for i, _ in beside}
            yield from self.asks_of(
                Draft(pieces.edges, beside, pieces.words, defined=pieces.defined, settled=frozenset(settled))
            )
        half_a_ratio, half_a_basis = self._is_half_a_ratio(pieces), _is_sorted_by_half_a_ratio(pieces)
        told_with = self._told_with(pieces)
        if told_with is not None:
            yield from self._with_figures(*told_with)
        for shape in (self._top, self._numbers, self._rows, self._values):
            draft = pieces.fresh()
            if half_a_ratio:
                draft.cost("figures per thing taken for its groups", 0.7)
            if half_a_basis:
                draft.cost("sorted by half of a ratio", 0.8)
            if told_with is not None:
                draft.cost("what stands beside taken for the rank", 0.9)
            if two_steps is not None or along is not None:
                draft.cost("the most of all and not of these", 0.5)
            if beside is not None:
                draft.cost("all under the condition of a part", 0.5)
            if Shown in kinds:
                draft.items = tuple((i, self._to_show(v, worked=shape == self._numbers)) for i, v in draft.items)
            ask = shape(draft, kinds if Shown not in kinds else {type(v) for _, v in draft.items})
            if ask is not None:
                ask = self._with_whose(ask, draft)
                yield from self._of_each_named(ask, draft)
                yield ask, draft
                yield from self._variants(ask, draft)

    def _told_with(self, pieces: Draft) -> tuple[Draft, list[m.Quantity], list[m.Condition]] | None:
        """The top five clinics by income with their number of visits: the question without what is told beside it.

        The figures beside it, and the conditions that the rank alone is under, stand next to it.
        """
        tops = pieces.of(Top)
        if len(tops) != 1:
            return None
        place, top = tops[0]
        led = self._ranked_by_such(pieces, place)
        ranked = top.by is not None or any(i == place and isinstance(v, _MEASURING) for i, v in pieces.items)
        if not ranked and not top.counts and not led:
            return None
        place = led[0] if led else place
        figures: list[m.Quantity] = []
        settled: set[int] = set()
        end = pieces.edges[place].end
        for i, value in pieces.items:
            edge = pieces.edges[i]
            if i <= place or i in settled:
                continue
            if isinstance(value, Marker) and pieces.words[edge.start] in _THEIRS | _TOLD_BESIDE:
                # "Their" says again whose it is; what is before it is before what follows.
                settled.add(i)
                continue
            if isinstance(value, Grouped) or (isinstance(value, Part) and value.kind == "time"):
                end = edge.end
                continue
            said = pieces.words[end : edge.start]
            inside = pieces.words[edge.start : edge.end]
            if isinstance(value, Noun) and value.key is not None and _TOLD_BESIDE & {*said}:
                # Their style and revenue: the one is shown, the other worked out.
                end = edge.end
                continue
            linked = bool(_TOLD_BESIDE & {*said, *inside[:1]}) and set(said) <= _TOLD_BESIDE | _THEIRS
            figure = self._figure_beside(pieces, value) if linked else None
            if figure is None:
                settled -= {j for j in settled if pieces.edges[j].end > end}
                break
            figures.append(figure)
            settled.add(i)
            end = edge.end
        if not figures:
            return None
        rest = tuple((i, v) for i, v in pieces.items if i not in settled)
        own = [p.condition for i, p in pieces.of(Part) if i in (place, *led) and p.kind != "time"]
        bare = Draft(
            pieces.edges, rest, pieces.words, defined=pieces.defined, settled=pieces.settled | frozenset(settled)
        )
        return bare, figures, own

    @staticmethod
    def _is_half_a_ratio(draft: Draft) -> bool:
        """True where orders, and kegs per order, by rep would be told of each order of a rep."""
        counted = {v.noun.table for _, v in draft.of(Counted)} | {n.table for _, n in draft.of(Noun)}
        grouped = draft.of(Grouped)
        per = [
            g.by.table
            for i, g in grouped
            if isinstance(g.by, Noun) and g.by.table is not None and draft.words[draft.edges[i].start] == "per"
        ]
        return len(grouped) > 1 and bool(counted & set(per))

    def _busy_with(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """The busiest month for orders is that of most orders, and not one of each order's."""
        counts = [i for i, t in pieces.of(Top) if t.counts]
        timed = any(isinstance(g.by, m.PartOf) for _, g in pieces.of(Grouped))
        for i, value in pieces.items:
            noun = value.by if isinstance(value, Grouped) else value
            rows = self._rows_named(noun) if isinstance(noun, Noun) and timed and counts else None
            start = pieces.edges[i].start
            said = pieces.words[start - (noun is value) :][:2] if start else ()
            led = said[:1] == ("for",) and not {"each", "every", "all"} & {*said}
            if rows is not None and led and i > counts[0] and not pieces.of(Counted):
                yield i, Counted(Noun(table=rows))
            else:
                yield i, value

    def _rows_named(self, noun: Noun) -> str | None:
        """The table whose rows a noun names, by its own name or by what tells them apart."""
        if noun.key is not None and self.nouns.tells_rows(noun.key):
            return noun.key.table
        return noun.table

    def _ranked_by_record(self, pieces: Draft) -> Items:
        """The driver with the worst on-time record: judged by the share that was on time."""
        tops = [i for i, t in pieces.of(Top) if t.by is None and not t.counts and pieces.says(i, JUDGING)]
        states = [(i, p) for i, p in pieces.of(Part) if p.kind in ("state", "flag")]
        measured = any(isinstance(v, (*_MEASURING, Worked, Shared)) for _, v in pieces.items)
        if len(tops) != 1 or len(states) != 1 or measured or states[0][0] != tops[0] + 1:
            return pieces.items
        place, part = states[0]
        if not _RECORDS & set(pieces.words[pieces.edges[place].end :][:1]):
            return pieces.items
        return tuple((i, Shared(None, part.condition) if i == place and v == part else v) for i, v in pieces.items)

    def _all_ranked(self, items: Items) -> Items:
        """Clinics ranked by fee per visit or by their no-show rate, pubs by revenue: each, in the order of what is worked out."""
        bases = [
            (i, v.by)
            for i, v in items
            if (isinstance(v, Basis) and isinstance(v.by, (Ratio, Shared)))
            or (isinstance(v, Sorted) and isinstance(v.by, Measured))
        ]
        nouns = [(i, v) for i, v in items if isinstance(v, Noun)]
        told = any(isinstance(v, (Top, Grouped, *_MEASURING, Worked)) for _, v in items)
        if len(bases) != 1 or not nouns or told or nouns[0][0] > bases[0][0]:
            return items
        (place, by), (first, noun) = bases[0], nouns[0]
        if isinstance(by, Measured) and not self._is_of_rows_below(by.expr, noun):
            return items
        if not isinstance(by, Measured) and len(nouns) > 1:
            return items
        turned = [v.descending for i, v in items if i == place and isinstance(v, Sorted) and v.descending is not None]
        said = any(isinstance(v, Direction) for _, v in items)
        ranked: Items = ((place, by), *(() if said else ((place, Direction(turned[0] if turned else True)),)))
        rest = ((i, Grouped(noun)) if i == first and v == noun else (i, v) for i, v in items if i != place)
        return tuple(sorted((*rest, *ranked), key=lambda item: item[0]))

    def _is_of_rows_below(self, expr: m.Expr, noun: Noun) -> bool:
        """True for what stands on rows that belong to the things named, and not on themselves."""
        own, tables = noun.table, tables_of(expr)
        if own is None or not tables:
            return False
        path = self.catalogue.path
        return all(t != own and path(t, own) is not None and path(own, t) is None for t in tables)

    @staticmethod
    def _ranked_by_states(pieces: Draft) -> Iterator[tuple[int, object]]:
        """The top clinics by no-shows are ranked by these, and not told apart by whether they came."""
        tops = pieces.of(Top)
        measured = min((i for i, v in pieces.items if isinstance(v, _MEASURING)), default=len(pieces.edges))
        bare = len(tops) == 1 and tops[0][1].by is None
        for i, value in pieces.items:
            match value:
                case Grouped(by=m.Test(condition=condition), across=False) if (
                    bare and tops[0][0] < i < measured and pieces.words[pieces.edges[i].start] == "by"
                ):
                    yield i, Part(condition, "state")
                case _:
                    yield i, value

    @staticmethod
    def _ranked_by_such(draft: Draft, place: int) -> list[int]:
        """Where "by" leads to a condition that names rows, and nothing else says what is ranked by."""
        if any(isinstance(v, (*_MEASURING, Worked)) and i <= place for i, v in draft.items):
            return []
        return [
            i
            for i, p in draft.of(Part)
            if i > place and p.kind in ("state", "flag", "value") and draft.words[draft.edges[i].start] == "by"
        ]

    def _figure_beside(self, pieces: Draft, value: object) -> m.Quantity | None:
        match value:
            case Counted():
                return self.count(pieces, value)
            case Measured(expr=expr, verb=False) | Joined(expr=expr):
                return self.nouns.aggregate(expr)
            case Worked(quantity=quantity):
                return quantity
            case Part(condition=m.Not(item=m.Missing(column=key))) if self.nouns.column(key).is_measure:
                return self.nouns.aggregate(m.Col(key))
            case Part(condition=m.Compared(op=">", left=m.Col() as of, right=m.Number(value=0.0))):
                return self.nouns.aggregate(of)
            case Shared(condition=condition) if condition is not None and len(tables_of(condition)) == 1:
                return self._share_of(condition, tables_of(condition)[0], None)
            case _:
                return None

    def _with_figures(
        self, bare: Draft, figures: list[m.Quantity], own: list[m.Condition]
    ) -> Iterator[tuple[m.Ask, Draft]]:
        """The meanings of a question with further figures beside the one that it ranks by."""
        for ask, draft in self.asks_of(bare):
            more = [f for f in figures if f not in ask.quantities]
            if ask.groups and ask.quantities and not ask.across:
                ranked = ask.quantities[0]
                if own and isinstance(ranked, m.Aggregated) and set(own) <= set(ask.where):
                    # The sources of most hires with their applications: these are all that there were.
                    told = dataclasses.replace(ranked, where=(*ranked.where, *own))
                    order = tuple(dataclasses.replace(o, by=told) if o.by == ranked else o for o in ask.order)
                    kept = tuple(c for c in ask.where if c not in own)
                    more = [f for f in figures if f != told]
                    ask = ask.but(where=kept, quantities=(told, *ask.quantities[1:]), order=order)
                yield ask.but(quantities=(*ask.quantities, *more)), draft
            elif ask.lists and (key := self.catalogue.table(ask.head).key) is not None:
                below = tuple(
                    m.Below(f, m.ColumnKey(ask.head, key.name))
                    for f in more
                    if isinstance(f, m.Aggregated) and self._is_under(f, ask.head)
                )
                if len(below) == len(more):
                    yield ask.but(shows=(*ask.shows, *below)), draft

    def _is_under(self, quantity: m.Aggregated, head: str) -> bool:
        """True for a figure of rows that belong to those of a table."""
        tables = {*m.counted_in(quantity), *tables_of(quantity)}
        return bool(tables) and all(t != head and self.catalogue.path(t, head) is not None for t in tables)

    def _those_that_had(self, pieces: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """Which animals had visits in May: the animals, each once, of whom there are such visits."""
        plain = (Noun, Part, Marker, Asking, Held)
        if not all(isinstance(v, plain) for _, v in pieces.items):
            return
        which = next((i for i, a in pieces.of(Asking) if a.what == "which"), None)
        nouns = pieces.of(Noun)
        things = next((n for i, n in nouns if which is not None and i == which + 1), None)
        rows = [n.table for i, n in nouns if n != things]
        if things is None or len(rows) != 1 or rows[0] is None or len(nouns) != 2:
            return
        points = (r.other for r in self.catalogue.relationships if things.key == m.ColumnKey(r.table, r.column))
        head = things.table or next(points, None)
        if head is None or head == rows[0] or self.catalogue.path(rows[0], head) is None:
            return
        draft = pieces.fresh()
        where: list[m.Condition] = []
        for _, part in draft.of(Part):
            if any(self.catalogue.path(rows[0], t) is None for t in tables_of(part.condition)):
                return
            where.append(part.condition)
        for _, held in draft.of(Held):
            measure = self.nouns.main_measure(rows[0])
            if held.quantity is not None or not isinstance(held.right, float) or measure is None:
                return
            where.append(m.Compared(held.op, measure, m.Number(held.right)))
        if not where:
            return
        draft.used |= {i for i, _ in draft.items}
        draft.cost("each of those", -0.2)
        yield m.Ask(head, (m.Has(m.Rows(rows[0], tuple(where))),)), draft

    def _counted_side_by_side(self, draft: Draft) -> list[str]:
        """The first table that is named, and those that are named beside it: contracts and payments per year."""
        (place, table), *others = self._tables_named(draft)
        found = [table]
        for other, beside in others:
            between = draft.words[draft.edges[place].end : draft.edges[other].start]
            if other != place + 1 or not between or not {*between} <= _SIDE_BY_SIDE or beside in found:
                break
            place = other
            found.append(beside)
        return found

    def _who_is_counted(self, draft: Draft, groups: Sequence[m.Expr]) -> tuple[int, m.ColumnKey] | None:
        """The column of the people or firms that a question begins with, each of whom is to be counted once."""
        for i, noun in draft.of(Noun):
            if noun.key is None or i in draft.used or m.Col(noun.key) in groups:
                continue
            column, said = self.nouns.column(noun.key), draft.words[draft.edges[i].end - 1]
            called = {stem(p) for p in name_parts(noun.key.column)}
            if _is_plural(said) and stem(said) in called & PERSON_WORDS and holds_names(column):
                return i, noun.key
        return None

    def _counted_when(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """Most claims reported: claims are counted, by the day that they were reported."""
        for i, value in pieces.items:
            dated = self._rows_by_their_day(pieces, i, value.noun) if isinstance(value, Counted) else None
            if dated is not None and isinstance(value, Counted):
                yield i, Counted(Noun(table=dated))
                yield i, Noun(key=value.noun.key)
            else:
                yield i, value

    def _rows_by_their_day(self, pieces: Draft, place: int, value: object) -> str | None:
        """The table of rows that are named together with a day of theirs: claims reported, copies acquired."""
        key = value.key if isinstance(value, Noun) else None
        if key is None or key not in self.nouns.dates:
            return None
        edge = pieces.edges[place]
        words = {stem(w) for w in pieces.words[edge.start : edge.end]}
        return key.table if words & {*self.nouns.vocabulary.tables[key.table].parts} else None

    def _with_whose_each_is(self, items: Sequence[tuple[int, object]]) -> Sequence[tuple[int, object]]:
        """The oldest boats with their owners are boats, with who owns each, and no owners: each has one of these."""
        place, few = next(((i, v) for i, v in items if isinstance(v, Leading) and v.below is not None), (-1, None))
        kind = few.kind.table or (few.kind.key.table if few.kind.key is not None else None) if few is not None else None
        if few is None or few.below is None or kind is None or self.catalogue.path(few.below, kind) is not None:
            return items
        by = few.by.expr if isinstance(few.by, Measured) else None
        top = Top(few.descending, few.number, by, counts=by is None, noun=few.kind, skip=few.skip)
        name = self.catalogue.table(few.below).naming_column
        shown = Noun(key=m.ColumnKey(few.below, name.name)) if name is not None else Noun(table=few.below)
        rest = [(i, v) for i, v in items if i != place]
        return (*rest, (place, top), (place, Shown(shown)))

    def _weigh_days_of_others(self, pieces: Draft) -> None:
        """The latest gift is told by a day of gifts, and not by when somebody joined, where gifts have days."""
        for _, top in pieces.of(Top):
            table = top.noun.table if top.noun is not None else None
            day = top.by.key if isinstance(top.by, m.Col) else None
            if table is None or day is None or day not in self.nouns.dates or day.table == table:
                continue
            if any(key.table == table for key in self.nouns.dates):
                pieces.cost("a day of other rows", 0.5)

    def _over_the_time(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """How much it has grown since 2016: the last time there is held against that; risen in May: against April."""
        times = [(i, p.condition) for i, p in pieces.of(Part) if p.kind == "time"]
        timed = any(isinstance(g.by, m.PartOf) for _, g in pieces.of(Grouped)) or bool(pieces.of(Moved))
        span = times[0][1] if len(times) == 1 else None
        if timed or not isinstance(span, m.Within) or not isinstance(span.time, m.EventTime):
            yield from pieces.items
            return
        versus = over_time(Span(span.low, span.high))
        open_ends = Versus(m.at_end("max"), m.at_end("min"))
        said = [(i, v) for i, v in pieces.items if v == open_ends or self._says_it_grew(pieces, i, v)]
        if versus is None or not said or any(v != open_ends for _, v in pieces.of(Versus)):
            yield from pieces.items
            return
        rows = next((n for _, n in pieces.of(Noun) if n.table is not None), None)
        measured = any(isinstance(v, (*_MEASURING, Worked)) for _, v in pieces.items)
        for i, value in pieces.items:
            if i == times[0][0]:
                yield i, versus
            elif isinstance(value, Function) and value.main and rows is not None and not measured:
                # How much visits have grown is told by how many there are.
                yield i, Counted(rows)
            elif (i, value) not in said:
                yield i, value
        yield from ((i, Marker("grew")) for i, _ in said)

    def _of_people_who_grow(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """The fastest growing towns have ever more people, where there is a table of these."""
        grew = [i for i, v in pieces.items if isinstance(v, (Versus, Moved))]
        said = {stem(w) for w in pieces.words} & _GROWING
        if not grew or not said or any(isinstance(v, (*_MEASURING, Worked)) for _, v in pieces.items):
            return
        tops = [t.noun for _, t in pieces.of(Top) if t.noun is not None]
        nouns = [*tops, *(n for _, n in pieces.of(Noun)), *(g.by for _, g in pieces.of(Grouped))]
        keys = [g.key for n in nouns if isinstance(n, Noun) and isinstance(g := self.nouns.group(n), m.Col)]
        for table, people in self.nouns.vocabulary.weights.items():
            counted = self.nouns.is_stock(people) and POPULATION & {
                *self.nouns.vocabulary.columns[people].parts,
                *self.nouns.vocabulary.tables[table].parts,
            }
            if counted and any(self.catalogue.path(table, k.table) is not None for k in keys):
                yield grew[0], Measured(m.Col(people))
                return

    @staticmethod
    def _says_it_grew(pieces: Draft, place: int, value: object) -> bool:
        """True for words that ask how much something rose or fell in all, and not from one time to the next."""
        words = pieces.words[pieces.edges[place].start : pieces.edges[place].end]
        if "when" in pieces.words:
            # When it was cut asks for a day.
            return False
        how = pieces.words[:1] == ("how",) and not {"much", "many"} & set(pieces.words[:3])
        match value:
            case Beside(kind="change" | "change_percent"):
                return len(words) == 1 and words[0] not in _ONE_BY_ONE and not how
            case Marker(kind="grew"):
                return not how
            case _:
                return False

    def _of_units(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """How many lambs were sold, or how many shirts were cleaned: of rows that tell how many, their sum."""
        sold = bool(_SOLD & {*pieces.words})
        for i, value in pieces.items:
            quantity = None
            # Batches of pans are batches; pans are so many as the rows say.
            rows_named = any(leaf.category == "T" for leaf in leaves(pieces.edges[i]))
            if isinstance(value, Counted) and not value.distinct and (sold or not rows_named):
                such = [p.condition for j, p in pieces.of(Part) if j == i and isinstance(p.condition, m.Is)]
                quantity = self._pieces_of(value.noun, such, pieces, sold=sold)
            yield i, value if quantity is None else Worked(m.Aggregated("sum", quantity))

    def _pieces_of(self, noun: Noun, such: list[m.Is], pieces: Draft, *, sold: bool) -> m.Col | None:
        """The column that says how many of a thing there were on a row, where these are counted by the piece."""
        if noun.key is not None and not such:
            # Items are pieces, where they are no kinds of them.
            there = _OFFERED & {*pieces.words} or _APART & {*pieces.words}
            if there or not _is_of_goods(noun.key) or not _PIECES & {*pieces.words}:
                return None
        named = [noun.key, *(p.column for p in such if noun.unknown and not sold)]
        table = noun.table or next((key.table for key in named if key is not None), None)
        if table is None or not (such or noun.key is not None):
            return None
        # One product called so is one: how many there are of it stands on the rows that tell of it.
        alone = any(self.nouns.tells_rows(p.column) and len(p.values) == 1 for p in such)
        goods = noun.key is not None or alone or any(_is_of_goods(p.column) for p in such)
        if not sold and not goods:
            return None
        for rows in (table, *self.nouns.children(table)) if sold or alone else (table,):
            found = trade(self.nouns.vocabulary, rows)
            quantity = found.quantity
            if not isinstance(quantity, m.Col) or self.nouns.column(quantity.key).type is not Type.INTEGER:
                continue
            if not may_be_stock(self.nouns.vocabulary, rows, found):
                return quantity
        return None

    def _of_stuff(self, pieces: Draft) -> tuple[tuple[int, object], ...]:
        """The most fuel is told by how much of it there was, and not by how many rows tell of some."""
        items = list(pieces.items)
        worked = any(isinstance(v, (*_MEASURING, Worked, Function, Held, Top)) for _, v in items)
        for place, (i, value) in enumerate(items):
            words = pieces.words[pieces.edges[i].start : pieces.edges[i].end]
            stuff = isinstance(value, Noun) and value.table is not None and len(words) == 1 and STUFF & {*words}
            if stuff and not worked and pieces.of(Grouped) and isinstance(value, Noun):
                # The harvest by crop is how much was brought in.
                amount = self.nouns.amount_of(value.table or "")
                items[place] = (i, Measured(amount)) if amount is not None else (i, value)
        for place, (i, value) in enumerate(items):
            table = value.noun.table if isinstance(value, Counted) else None
            words = pieces.words[pieces.edges[i].start : pieces.edges[i].end]
            if table is None or not STUFF & {*words} or "many" in words:
                continue
            amount = self.nouns.amount_of(table)
            tops = [n for n, (j, v) in enumerate(items) if j == i and isinstance(v, Top) and v.counts]
            if amount is not None and tops:
                top = items[tops[0]][1]
                assert isinstance(top, Top)
                items[tops[0]] = (i, dataclasses.replace(top, counts=False, by=amount))
                items[place] = (i, Measured(amount))
        return tuple(items)

    def _not_in_that_time(self, pieces: Draft) -> tuple[tuple[int, object], ...]:
        """Customers not delivered to since August: none of their deliveries fell into that time, whatever else is open."""
        named = [t for _, n in pieces.of(Noun) if (t := self._rows_named(n)) is not None]
        times = [
            (i, p.condition)
            for i, p in pieces.of(Part)
            if isinstance(p.condition, m.Within) and isinstance(p.condition.time, m.EventTime)
        ]
        denied = [
            (p, rows) for i, p in pieces.of(Part) if pieces.says(i, _NOT_DONE) and (rows := self._denied(p)) is not None
        ]
        if len(times) != 1 or len(denied) != 1 or not named:
            return pieces.items
        (when, time), (part, (table, done)) = times[0], denied[0]
        if self.catalogue.path(table, named[0]) is None or table == named[0]:
            return pieces.items
        dated = (dataclasses.replace(time, time=m.Col(done.column)),) if isinstance(done, m.Missing) else (done, time)
        none = Part(m.Not(m.Has(m.Rows(table, dated))), "related")
        pieces.settled |= {when}
        return tuple((i, none if v is part else v) for i, v in pieces.items if i != when)

    def _denied(self, part: Part) -> tuple[str, m.Missing | m.Is] | None:
        """The table in whose rows something is said not to have happened, and the gap or the state that tells of it."""
        match part.condition:
            case m.Missing(column=key) as gap if self.nouns.column(key).type.is_time:
                return key.table, gap
            case m.Not(item=m.Is(column=key) as state) if self.nouns.column(key).role is not Role.TEXT:
                return key.table, state
            case m.Not(item=m.Has(rows=m.Rows(table=table, where=(m.Is() as state,)), op=">=", number=1)):
                return table, state
            case _:
                return None

    def _asked_for(self, pieces: Draft) -> list[str]:
        """The tables whose rows are named, those that are listed before those that are counted."""
        nouns = [n for _, n in pieces.of(Noun)] + [c.noun for _, c in pieces.of(Counted) if c.noun is not None]
        return [t for n in nouns if (t := self._rows_named(n)) is not None]

    def _summed_for_each(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """Products whose material cost is above their standard cost: all that stands below a product is added up for it."""
        named = next(iter(self._asked_for(pieces)), None)
        number = self.catalogue.table(named).key if named is not None else None
        for i, value in pieces.items:
            match value:
                case Part(condition=m.Compared(left=left, right=m.Col(key=own)) as held) if (
                    number is not None
                    and named == own.table
                    and (base := lowest_table(tables_of(left), self.catalogue)) not in (None, named)
                    and self.catalogue.path(str(base), str(named)) is not None
                    and not isinstance(left, m.Below)
                    and all(self.nouns.column(k).is_measure for k in m.columns_in(left))
                    and any(self.nouns.column(k).role.is_summed for k in m.columns_in(left))
                ):
                    below = m.Below(m.Aggregated("sum", left), m.ColumnKey(str(named), number.name))
                    yield i, dataclasses.replace(value, condition=dataclasses.replace(held, left=below))
                case _:
                    yield i, value

    def _able(self, pieces: Draft) -> tuple[tuple[int, object], ...]:
        """Who is trained on a machine, or cannot use it, is told by the list of who goes with what, and not by what was done."""
        if not _ABLE & {*pieces.words}:
            return pieces.items
        named = self._asked_for(pieces)
        if not named and "who" not in pieces.asks():
            return pieces.items
        such = [(i, p) for i, p in pieces.of(Part) if isinstance(p.condition, (m.Is, m.Not)) and p.kind != "time"]
        for table in self.catalogue.tables:
            above = [r.other for r in self.catalogue.parents(table.name)]
            people = next((t for t in above if self.nouns.is_of_people(t)), None)
            head = named[0] if named else people
            if people is None or head not in above or self._happens(table.name):
                continue
            # What is said of those who are asked for stays with them.
            parts = [(i, p) for i, p in such if head not in tables_of(p.condition)]
            told = {t for _, p in parts for t in tables_of(p.condition)}
            if not told or not told <= {table.name, *above}:
                continue
            first, taken = parts[0][0], {i for i, _ in parts}
            pieces.settled |= taken - {first}
            rest = tuple((i, v) for i, v in pieces.items if not (i in taken and isinstance(v, Part)))
            may = self._may(table.name, [p.condition for _, p in parts], {*pieces.words})
            made = (first, Part(may, "related"))
            return (*rest, made) if named else (*rest, (first, Noun(table=head)), made)
        return pieces.items

    @staticmethod
    def _may(table: str, said: list[m.Condition], words: set[str]) -> m.Condition:
        """Rows of a list of who goes with what, or none: both the press and the sander stand in rows of their own."""
        both = "and" in words and not words & {"or", "either", "any"}
        met: list[m.Condition] = []
        for condition in said:
            match condition:
                case m.Is(column=column, values=values) if both:
                    met += [m.Is(column, (value,)) for value in values]
                case _:
                    met.append(condition)
        denied = [c.item for c in met if isinstance(c, m.Not)]
        granted = [c for c in met if not isinstance(c, m.Not)]
        apart = len(granted) > len({tuple(m.columns_in((c,))) for c in granted})
        together = [(c,) for c in granted] if apart else [tuple(granted)] if granted else []
        has: list[m.Condition] = [m.Has(m.Rows(table, where)) for where in together]
        if not denied and words & _NOT_ABLE:
            has = [m.Not(h) for h in has]
        has += [m.Not(m.Has(m.Rows(table, (c,)))) for c in denied]
        return m.All(tuple(has)) if len(has) > 1 else has[0]

    def _by_their_kind(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """By type of organisation is by the type that stands beside the name of each."""
        for i, value in pieces.items:
            noun = value.by if isinstance(value, Grouped) else None
            key = noun.key if isinstance(noun, Noun) else None
            if key is None or not pieces.says(i, _SORTS) or not self.nouns.tells_rows(key):
                yield i, value
                continue
            kinds = [
                m.ColumnKey(key.table, c.name)
                for c in self.catalogue.table(key.table).columns
                if c.role is Role.CATEGORY and name_parts(c.name)[-1] in _SORTS
            ]
            yield i, dataclasses.replace(value, by=Noun(key=kinds[0])) if kinds else value  # type: ignore[type-var]

    def _along_once(self, pieces: Draft) -> Items:
        """A trend by year is told by the year, and not by the month as well."""
        timed = {
            i: g.by.unit
            for i, g in pieces.of(Grouped)
            if isinstance(g.by, m.PartOf) and isinstance(g.by.of, m.EventTime)
        }
        edges = pieces.edges
        implied = {i for i in timed if _TRENDING & {*pieces.words[edges[i].start : edges[i].end]}}
        if not implied or len(timed) <= len(implied):
            return pieces.items
        return tuple((i, v) for i, v in pieces.items if i not in implied or not isinstance(v, Grouped))

    def _by_their_figure(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """The trend of one pollutant is that of its figure, and not of how often it was measured."""
        figures = self.nouns.vocabulary.figures_alone
        for i, value in pieces.items:
            table = value.noun.table if isinstance(value, Counted) and value.noun is not None else None
            figure = figures.get(table or "")
            yield i, Measured(m.Col(figure)) if figure is not None and not pieces.says(i, _COUNTING) else value

    def _in_their_unit(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """How late they are is told in minutes of what is minutes late, where no unit is said."""
        for i, value in pieces.items:
            said = isinstance(value, (Measured, Worked)) and not pieces.says(i, _DAYS)
            lengths = [p for p in m.parts(value) if isinstance(p, m.Length) and p.unit == "days"] if said else []
            natural = {p: dataclasses.replace(p, unit=self._natural_unit(p)) for p in lengths}
            yield i, m.replaced(value, natural) if natural else value  # type: ignore[arg-type]

    def _natural_unit(self, length: m.Length) -> m.LengthUnit:
        match length:
            case m.Length(start=m.Col(key=first), end=m.Col(key=last)):
                return self.nouns.vocabulary.natural_unit(first, last)
            case _:
                return length.unit

    def _of_common_kinds(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """The most common repair is the kind of which there are most, since no repair happens twice."""
        for i, value in pieces.items:
            table = value.noun.table if isinstance(value, Top) and value.noun is not None else None
            if table is None or not pieces.says(i, ("common", "frequent", "usual", "frequently", "commonly")):
                yield i, value
                continue
            kinds = (
                m.ColumnKey(table, c.name)
                for c in self.catalogue.table(table).columns
                if c.role is Role.CATEGORY and c.type is Type.TEXT and 1 < c.distinct <= MOST_KINDS
            )
            kind = next((k for k in kinds if {*self.nouns.vocabulary.columns[k].parts[-1:]} & _KINDS_OF_DOINGS), None)
            if kind is None or not isinstance(value, Top):
                yield i, value
            else:
                yield i, dataclasses.replace(value, noun=None, by=None, counts=True)
                yield i, Grouped(Noun(key=kind))
                yield i, Counted(Noun(table=table))

    def _as_many(self, pieces: Draft, place: int, value: object) -> object:
        """How many deposits there are is no sum of money, and faults by machine are how many each has."""
        said = pieces.words[pieces.edges[place].start : pieces.edges[place].end]
        match value:
            case Worked(m.Aggregated("sum", m.Col(key), None, where)) if self.nouns.column(key).role is Role.MONEY:
                if said[:2] == ("how", "many"):
                    return Worked(m.Aggregated("count", table=key.table, where=(*where, m.Not(m.Missing(key)))))
            case Counted(Noun(table=str(table)), distinct=False) if said[0] in _IN_ALL and not _COUNTS & {*said}:
                # The total payments are what they come to.
                return self._sum_of_money(table, said[-1]) or value
            case Ratio(top=Counted(Noun(table=str(table))), bottom=Noun() | Counted(noun=Noun()) as each) if (
                said[0] in _USUAL
                and not said[1].endswith("s")
                and not _COUNTS & {*said}
                and self.nouns.has_money(table)
                and self._sum_of_money(table) is None
            ):
                # The average invoice per client is what one comes to for each, and not how many there are.
                main = self.nouns.main_measure(table)
                whose = each.noun if isinstance(each, Counted) else each
                return (Worked(m.Aggregated("mean", main)), Grouped(whose)) if main is not None else value
            case Ratio(top=Counted(Noun(table=str(table)))) if said[0] in _USUAL and not _COUNTS & {*said}:
                top = self._sum_of_money(table)
                return dataclasses.replace(value, top=top) if top is not None else value
            case Noun(table=str(table)) if (
                pieces.of(Grouped)
                and said[-1].endswith("s")
                and not any(isinstance(v, (*_MEASURING, Worked, Function, Counted)) for _, v in pieces.items)
            ):
                # Donations by fund are what they come to, and how many there are.
                summed = self._sum_of_money(table, said[-1])
                return (summed, Counted(value)) if summed is not None else value
            case Noun(key=m.ColumnKey() as key) if self._are_troubles(key) and pieces.of(Grouped):
                plural = said[-1].endswith("s")
                worked = any(isinstance(v, (*_MEASURING, Worked, Function)) for _, v in pieces.items)
                if plural and not worked and not _APART & set(pieces.words):
                    # Medals by country: how many each has.
                    return Counted(value)
            case _:
                pass
        return value

    def _sum_of_money(self, table: str, called: str = "") -> Worked | None:
        """What the rows of a table come to, where they are sums of money themselves, or are called so."""
        expr = self.nouns.main_measure(table) if self.nouns.is_of_money(table, called) else None
        return Worked(m.Aggregated("sum", expr)) if expr is not None else None

    def _held_in_all(self, pieces: Draft) -> Items:
        """Days on which we took more than 5,000 in total: what the number is held against is first worked out."""
        things = pieces.of(Grouped) or any(not noun.unknown for _, noun in pieces.of(Noun))
        functions = {pieces.edges[i].start: (i, f) for i, f in pieces.of(Function)} if things else {}
        found: dict[int, Held] = {}
        settled: set[int] = set()
        for i, part in (*pieces.of(Part), *pieces.of(Held)):
            end = pieces.edges[i].end
            said_of = functions.get(end) or functions.get(end + (pieces.words[end : end + 1] in (("in",), ("on",))))
            place, function = said_of or (-1, None)
            if function is None or function.function not in ("sum", "mean", "median"):
                continue
            held = part.condition if isinstance(part, Part) else part
            if isinstance(held, m.Has) and len(held.rows.where) == 1:
                # Homes whose repairs came to so much in total.
                held = held.rows.where[0]
            match held:
                case m.Compared(left=m.Col() | m.Arithmetic() as expr, right=m.Number(value=number), op=op):
                    found[i] = Held(Worked(m.Aggregated(function.function, expr)), op, number)  # type: ignore[arg-type]
                    settled.add(place)
                case Held(right=float()) | m.Has(number=int()) if function.function == "sum":
                    # So many times in total is so many times.
                    settled.add(place)
                case _:
                    pass
        pieces.settled |= settled
        return tuple((i, found.get(i, v)) for i, v in pieces.items if i not in settled)

    def _with_their_number(self, pieces: Draft) -> tuple[tuple[int, object], ...]:
        """Clinics with at least 20 visits, and how many each had: what is held is shown, for each of them."""
        marked = next((i for i, v in pieces.of(Marker) if v.kind == "their number"), None)
        if marked is None or not 0 < marked == len(pieces.edges) - 1:
            # How many of them were late asks for those, and so does what comes before any other piece.
            return pieces.items
        items = [(i, v) for i, v in pieces.items if i != marked]
        held = next((i for i, p in pieces.of(Part) if isinstance(p.condition, m.Has)), None)
        named = next((i for i, n in pieces.of(Noun) if not n.unknown), None)
        if held is None or named is None:
            said = next((v.quantity for _, v in pieces.of(Held) if isinstance(v.quantity, Counted)), None)
            return (*items, (marked, said or Marker("idle")))
        found: list[tuple[int, object]] = []
        for i, value in items:
            if i == held and isinstance(value, Part) and isinstance(value.condition, m.Has):
                has = value.condition
                counted = Worked(m.Aggregated("count", table=has.rows.table))
                found += [(i, Held(counted, has.op, float(has.number))), *((i, Part(c)) for c in has.rows.where)]
                found.append((marked, counted))
            elif i == named:
                found.append((i, Grouped(value)))  # type: ignore[arg-type]
            else:
                found.append((i, value))
        return tuple(found)

    def _counted_beside(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """Claims by cause and the average amount: how many there are, and that."""
        rows = [i for i, v in pieces.items if not isinstance(v, Asking)][:1]
        grouped, counted = [i for i, _ in pieces.of(Grouped)], bool(pieces.of(Counted))
        beside = any(
            i > grouped[0]
            and "and" in pieces.words[max(pieces.edges[i].start - 2, 0) : pieces.edges[i].start + 1]
            and (isinstance(v, Worked | Function) or (isinstance(v, Measured | Counted) and pieces.asks_besides(i)))
            for i, v in pieces.items
            if grouped
        )
        for i, value in pieces.items:
            first = beside and not counted and [i] == rows and i < grouped[0] and isinstance(value, Noun)
            dated = self._rows_by_their_day(pieces, i, value) if first else None
            if dated is not None:
                yield i, Counted(Noun(table=dated))
            yield i, Counted(value) if first and isinstance(value, Noun) and value.table is not None else value

    def _with_kinds_shared(self, pieces: Draft) -> Iterator[tuple[int, object]]:
        """The proportion of outcomes for each district: outcomes are split there, and each is a share of its district."""
        conditions = any(p.kind != "time" for _, p in pieces.of(Part))
        inner: list[tuple[int, object]] = []
        for i, value in pieces.items:
            noun = value.of if isinstance(value, Shared) and value.condition is None else None
            if isinstance(noun, Noun) and not conditions and pieces.of(Grouped) and self._are_kinds(noun):
                inner += [(i, Grouped(noun)), (i, Beside("share_within"))]
            else:
                yield i, value
        yield from inner

    def _are_kinds(self, noun: Noun) -> bool:
        """True for a column of a few kinds that tells no rows apart."""
        column = self.nouns.column(noun.key) if noun.key is not None else None
        if noun.key is None or column is None or self.nouns.tells_rows(noun.key):
            return False
        kinds = column.role in KIND_ROLES and not column.type.is_time
        return kinds and 1 < column.distinct <= MOST_KINDS

    def _laid_in_rows(self, pieces: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """Rows of which some columns are to stand in rows of their own."""
        for place, laid in pieces.of(Laid)[:1]:
            heads = [key.table for key in m.columns_in(laid.columns)]
            if laid.unit is not None:
                heads = list(rows_of_periods(laid.unit, self.catalogue))
            head = lowest_table(heads, self.catalogue) if laid.unit is None else next(iter(heads), None)
            if head is None:
                continue
            draft = pieces.fresh()
            draft.used.add(place)
            draft.items = tuple((i, Noun(table=head) if i == place else v) for i, v in draft.items)
            ask = self._rows(draft, {type(v) for _, v in draft.items})
            if ask is not None and ask.lists:
                yield with_columns_in_rows(ask, laid.columns, self.catalogue), draft

    def _kinds_of(self, pieces: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """The different values of columns, of those rows that are meant."""
        (place, kinds), *others = pieces.of(Kinds)
        groups = tuple(m.Col(n.key) for n in kinds.columns if n.key is not None)
        draft = pieces.fresh()
        draft.used |= {place, *(i for i, v in draft.items if isinstance(v, (Asking, Marker)))}
        where = self._conditions(draft)
        head = self._head(draft, *groups, *where)
        draft.used |= {i for i, n in draft.of(Noun) if n.table == head}
        links = {m.ColumnKey(r.table, r.column) for r in self.catalogue.relationships}
        rows = any(g.key in links or self.nouns.names_rows(g.key) for g in groups)
        if not others and not rows and len(groups) == len(kinds.columns):
            held, _ = self._holds(draft, head, (), None)
            yield m.Ask(head, (*where, *held), groups=groups, order=self.order(draft, (), (), head)), draft

    def _listed_with(self, pieces: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """Rows of their own with the columns that are asked for of each."""
        (place, listing), *others = pieces.of(Listing)
        head = listing.rows.table
        shows: list[m.Expr] = []
        for column in listing.columns:
            if isinstance(column, Measured):
                shows.append(column.expr)
            elif isinstance(column, Counted):
                shows += self.so_many_of_each(column.noun.table, head)
            elif isinstance(column, Moment):
                shows += self._moments_of_each(column, head)
            elif column.key is not None:
                shows.append(m.Col(column.key))
            elif column.table is not None and (name := self.nouns.naming(column.table)) is not None:
                shows.append(name)
        if head is None or others or len(shows) < len(listing.columns):
            return
        if any(self.catalogue.path(head, t) is None for s in shows for t in tables_of(s)):
            return
        draft = pieces.fresh()
        draft.items = tuple((i, listing.rows if i == place else v) for i, v in draft.items)
        draft.items = (*draft.items, (place, Asking("list")))
        ask = self._rows(draft, {type(v) for _, v in draft.items})
        longest = next(
            (s for s, c in zip(shows, listing.columns, strict=False) if isinstance(c, Moment) and c.ranks), None
        )
        if ask is not None and longest is not None:
            several = pieces.asks_for_several(listing.rows)
            ask = ask.but(order=(m.Order(longest, False),), limit=SEVERAL if several else 1)
        first = next((t for i, t in pieces.of(Top) if i == place and t.by is not None), None)
        if ask is not None and first is not None and first.by is not None:
            # The highest fee, and at which clinic.
            ask = ask.but(order=(m.Order(first.by, first.descending),), limit=first.number)
        if ask is not None and ask.lists and ask.head == head:
            yield ask.but(shows=tuple(dict.fromkeys((*shows, *ask.shows)))), draft

    def _moments_of_each(self, moment: Moment, head: str | None) -> Iterator[m.Expr]:
        """When each one of a table first or last had a row of another, in the order of their own times."""
        if moment.rows is not None:
            rows = moment.rows.table
        else:
            rows = next(iter(self._done_below(head)), None) if head is not None else None
        time = self.catalogue.table(rows).time_column if rows is not None else None
        for counted in self.so_many_of_each(rows, head):
            if isinstance(counted, m.Below) and rows is not None and time is not None:
                when = m.Aggregated(moment.end, m.Col(m.ColumnKey(rows, time.name)))
                below = dataclasses.replace(counted, quantity=when)
                yield m.Length("days", below, m.Now()) if moment.since else below

    def so_many_of_each(self, rows: str | None, head: str | None) -> Iterator[m.Expr]:
        """How many rows of a table belong to each one of another, the ones that have none among them."""
        key = self.catalogue.table(head).key if head is not None else None
        if rows is not None and head is not None and key is not None and rows != head:
            if self.catalogue.path(rows, head) is not None:
                yield m.Below(m.Aggregated("count", table=rows), m.ColumnKey(head, key.name))

    def _in_two_steps(self, pieces: Draft) -> Draft | None:
        """Visits at the clinic with the most vets: that clinic is found first, and what is asked is asked of it."""
        tops = pieces.of(Top)
        if len(tops) != 1:
            return None
        place, top = tops[0]
        said = top.by is not None or top.counts or top.number is None
        joined = place - 1 - any(i == place - 1 for i, _ in pieces.of(Marker))
        first_place = joined if top.noun is None and any(i == joined for i, _ in pieces.of(Noun)) else place
        start = pieces.edges[first_place].start
        before = [w for w in pieces.words[max(start - 2, 0) : start + 1] if w in _HELD_BY]
        if (
            not first_place
            or not said
            or not before
            or any(isinstance(v, (Versus, OfTop, Shared)) for _, v in pieces.items)
        ):
            return None
        own = [(i, v) for i, v in pieces.items if first_place <= i <= place]
        times = [(i, v) for i, v in pieces.items if i != place and isinstance(v, Part) and v.kind == "time"]
        after = [(i, v) for i, v in pieces.items if i > place and isinstance(v, Part) and v.kind != "time"]
        inner = Draft(pieces.edges, (*own, *times, *after), pieces.words)
        first = self._top(inner, {type(v) for _, v in inner.items})
        if first is None or first.limit is None or first.per or len(first.groups) > 1:
            return None
        own_key = self.catalogue.table(first.head).key
        if not first.groups and own_key is not None:
            first = first.but(shows=(m.Col(m.ColumnKey(first.head, own_key.name)),))
        group = next(iter((*first.groups, *first.shows)), None)
        if not isinstance(group, m.Col):
            return None
        rest = tuple((i, v) for i, v in pieces.items if not first_place <= i <= place and (i, v) not in after)
        if not any(self._asks_below(v, group.key) for i, v in rest if i < place):
            return None
        settled = frozenset({first_place, place, *(i for i, _ in after)})
        outer = Draft(pieces.edges, rest, pieces.words, defined=pieces.defined, settled=settled)
        outer.items = (*outer.items, (place, Part(m.Among(group.key, first), "related")))
        return outer

    def _tops_over_time(self, pieces: Draft) -> Draft | None:
        """The three biggest clinics over time: which three they are is found first, and each is a line of its own."""
        tops = pieces.of(Top)
        lines = [g for _, g in pieces.of(Grouped) if isinstance(g.by, m.PartOf)]
        if len(tops) != 1 or len(lines) != 1 or len(pieces.of(Grouped)) != 1 or _EACH_OF & set(pieces.words):
            return None
        place, top = tops[0]
        noun = top.noun or next((n for i, n in pieces.of(Noun) if i == place + 1), None)
        start = pieces.edges[place].start
        of_them = bool(_HELD_BY & set(pieces.words[max(start - 2, 0) : start]))
        drawn = bool(pieces.of(Charted)) or set(pieces.words) >= _OVER_TIME
        if noun is None or top.number is None or top.number < 2 or top.percent or not (of_them or drawn):
            return None
        group = self.nouns.group(noun)
        measures = [(i, v) for i, v in pieces.items if isinstance(v, (Basis, Measured, Worked, Counted))]
        if not isinstance(group, m.Col) or len(measures) > 1:
            return None
        told = measures[0][1] if measures else None
        by = told.by if isinstance(told, Basis) else told
        quantity: m.Quantity | None
        match by:
            case Measured(expr=expr):
                quantity = self.nouns.aggregate(expr)
            case Worked():
                quantity = by.quantity
            case Counted():
                quantity = self.count(pieces, by)
            case _:
                main = top.by or self.nouns.main_measure(group.key.table)
                quantity = self.nouns.aggregate(main) if main is not None else self.nouns.counted(group.key.table)
        if quantity is None:
            return None
        where = self._conditions(pieces.fresh())
        head = self._head(pieces, group, quantity)
        chosen = m.Ask(head, where, (quantity,), (group,), order=(m.Order(quantity, top.descending),), limit=top.number)
        gone = {place, *(i for i, n in pieces.of(Noun) if n == noun), *(i for i, _ in measures)}
        rest = tuple((i, v) for i, v in pieces.items if i not in gone)
        outer = Draft(pieces.edges, rest, pieces.words, defined=pieces.defined, settled=frozenset(gone))
        among = Part(m.Among(group.key, chosen), "related")
        outer.items = (*outer.items, (place, Worked(quantity)), (place, among), (place, Grouped(noun)))
        return outer

    def _of_those_held(self, pieces: Draft) -> Draft | None:
        """Crimes in districts with more than 200,000 people: these districts are found first, by what stands below them."""
        for place, value in pieces.items:
            noun = next((v for i, v in pieces.items if i == place - 1 and isinstance(v, Noun)), None)
            group = self.nouns.group(noun) if noun is not None and not noun.unknown else None
            key = group.key if isinstance(group, m.Col) else None
            rest = tuple((i, v) for i, v in pieces.items if i not in (place - 1, place))
            number = value.condition if isinstance(value, Part) else None
            held = isinstance(value, Held) or (
                isinstance(number, m.Compared) and key is not None and self._is_summed_beside(number.left, key)
            )
            held |= isinstance(number, m.Has) and key is not None and self._stands_beside(number.rows.table, key, rest)
            start = pieces.edges[place - 1].start
            if key is None or not held or not _HELD_BY & set(pieces.words[max(start - 2, 0) : start + 1]):
                continue
            if not any(self._asks_below(v, key) for i, v in rest if i < place):
                continue
            settled = frozenset({place - 1, place})
            outer = Draft(pieces.edges, rest, pieces.words, defined=pieces.defined, settled=settled)
            if isinstance(number, m.Has):
                outer.items = (*outer.items, (place, value))
                return outer
            times = [(i, v) for i, v in rest if isinstance(v, Part) and v.kind == "time"]
            own = [(i, v) for i, v in pieces.items if i in (place - 1, place)]
            inner = Draft(pieces.edges, (*own, *times), pieces.words)
            found = self._rows(inner, {type(v) for _, v in inner.items})
            if found is None or not found.having or len(found.groups) != 1:
                continue
            held_there = m.Among(key, self._of_latest(found.but(groups=(m.Col(key),))))
            outer.items = (*outer.items, (place, Part(held_there, "related")))
            return outer
        return None

    def _stands_beside(self, rows: str, key: m.ColumnKey, asked: Items) -> bool:
        """True for rows that belong to what a column tells apart, where what is asked is of other rows that do."""
        path = self.catalogue.path
        others = [t for _, v in asked if isinstance(v, (Measured, Worked)) for t in tables_of(v)]
        others += [v.noun.table for _, v in asked if isinstance(v, Counted) and v.noun.table is not None]
        return path(rows, key.table) is not None and any(
            path(t, rows) is None and path(rows, t) is None and path(t, key.table) is not None for t in others
        )

    def _is_summed_beside(self, expr: m.Expr, key: m.ColumnKey) -> bool:
        """True for what is added up over other rows that belong to what a column tells apart."""
        tables = set(tables_of(expr))
        below = all(t != key.table and self.catalogue.path(t, key.table) is not None for t in tables)
        return bool(tables) and below and self.nouns.function(expr) == "sum"

    def _asks_below(self, value: object, key: m.ColumnKey) -> bool:
        """True for a piece that asks for something of the rows that stand below each of what a column tells apart."""
        match value:
            case Counted(noun=Noun(table=str(rows))) | Noun(table=str(rows)):
                tables = [rows]
            case Counted(noun=Noun(key=m.ColumnKey() as counted)):
                tables = [counted.table]
            case Measured(expr=expr, verb=False):
                tables = tables_of(expr)
            case Worked(quantity=quantity):
                tables = [*tables_of(quantity), *m.counted_in(quantity)]
            case _:
                return False
        several = not self.nouns.tells_rows(key)
        return any((t != key.table or several) and self.catalogue.path(t, key.table) is not None for t in tables)

    def _of_each_named(self, ask: m.Ask, draft: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """The average for dogs and cats is that of each: one over both would tell nothing of either."""
        named = [c for c in ask.where if isinstance(c, m.Is) and 2 <= len(c.values) <= MOST_NAMED]
        if (
            len(ask.groups) > 1
            or ask.order
            or ask.lists
            or len(named) != 1
            or not ask.quantities
            or _ALIKE & set(draft.words)
        ):
            return
        told = [v for _, p in draft.of(Part) for c in m.parts(p.condition) if isinstance(c, m.Is) for v in c.values]
        if not all(_is_of_each(q) for q in ask.quantities) or len(set(told)) < 2 or "and" not in draft.words:
            return
        if m.Col(named[0].column) in ask.groups:
            return
        each = draft.copy()
        draft.cost("one average of several", 0.3)
        yield ask.but(groups=(*ask.groups, m.Col(named[0].column))), each

    def _to_show(self, value: object, *, worked: bool) -> object:
        """A column beside others: what is measured is worked out for groups, and stands on rows that are listed."""
        if not isinstance(value, Shown):
            return value
        key = value.noun.key
        return Measured(m.Col(key)) if worked and key is not None and self.nouns.column(key).is_measure else value.noun

    def _plans_at_a_time(self, pieces: Draft) -> Items:
        """Who missed their target in May: what they brought in then is held against it."""
        items = pieces.items
        held = [
            (i, v)
            for i, v in items
            if isinstance(v, Part) and isinstance(v.condition, m.Compared) and isinstance(v.condition.left, m.Below)
        ]
        times = [(i, v) for i, v in items if isinstance(v, Part) and v.kind == "time"]
        when = [v.condition for _, v in times]
        if len(held) != 1 or len(times) != 1 or not any(isinstance(p, m.EventTime) for p in m.parts(when)):
            return items
        (place, part), below = held[0], held[0][1].condition
        assert isinstance(below, m.Compared) and isinstance(below.left, m.Below)
        of = below.left.quantity
        table = of.table or next(iter(tables_of(of.expr)), None)
        if of.function not in ("sum", "count") or table is None or self.catalogue.table(table).time_column is None:
            return items
        then = dataclasses.replace(below.left, quantity=dataclasses.replace(of, where=(*of.where, *when)))
        now = dataclasses.replace(part, condition=dataclasses.replace(below, left=then))
        pieces.settled |= {times[0][0]}
        return tuple((i, now if i == place else v) for i, v in items if i != times[0][0])

    def _until_now(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """How long open ones have been open is told until today: the day on which they ended is still to come."""
        open_ones = {c.column for c in ask.where if isinstance(c, m.Missing)}
        going = {
            key.table
            for i, p in draft.of(Part)
            if p.kind == "state" and p.condition in ask.where and draft.says(i, _GOING_ON)
            for key in m.columns_in(p.condition)
        }
        change: dict[object, object] = {}
        for part in m.parts((ask.shows, ask.quantities, ask.order, ask.groups)):
            end = part.end.key if isinstance(part, m.Length) and isinstance(part.end, m.Col) else None
            if isinstance(part, m.Length) and end is not None and part.unit != "whole_years":
                if end in open_ones or (end.table in going and self.nouns.column(end).missing):
                    change[part] = dataclasses.replace(part, end=m.Now())
        return m.replaced(ask, change) if change else ask  # type: ignore[return-value]

    def _so_much_of_a_plan(self, held: Held) -> Part | None:
        """Less than half of their budget, where what came of it is added up below: also of those of which nothing did."""
        expr = held.quantity.expr if isinstance(held.quantity, Rated) else None
        if not isinstance(expr, m.Col) or not isinstance(held.right, float) or self.nouns.came_of(expr) is not None:
            return None
        came = plan_came(self.nouns.vocabulary, expr.key) if is_plan(self.nouns.vocabulary, expr.key) else None
        if came is None:
            return None
        return Part(m.Compared(held.op, came, m.Arithmetic("*", expr, m.Number(held.right / 100))), "number")

    def _each_alone(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """One by one: for each of the rows, where something is worked out of them; rows that are listed are so anyway."""
        asked = [i for i, v in draft.of(Marker) if v.kind == "each" and i not in draft.used]
        if not asked:
            return ask
        draft.used.update(asked)
        named = (t for _, t in self._tables_named(draft))
        above = next((t for t in named if t != ask.head and self.catalogue.path(ask.head, t)), ask.head)
        naming = self.nouns.naming(above)
        own = above == ask.head and all(m.counts(q) for q in ask.quantities)
        return (
            ask.but(groups=(naming,)) if ask.quantities and not ask.groups and naming is not None and not own else ask
        )

    def _against_a_plan(self, condition: m.Condition) -> m.Condition | None:
        """What is held against a plan of the thing that its rows belong to is added up over them: no one bill is meant."""
        if not isinstance(condition, m.Compared) or isinstance(condition.right, m.QUANTITIES):
            return None
        lines, planned = {*tables_of(condition.left)}, m.columns_in(condition.right)
        if len(lines) != 1 or len(planned) != 1 or not is_plan(self.nouns.vocabulary, planned[0]):
            return None
        (line,), (plan,) = lines, planned
        number = self.catalogue.table(plan.table).key
        worked = self.nouns.aggregate(condition.left)
        if (
            line == plan.table
            or number is None
            or not self.catalogue.path(line, plan.table)
            or worked.function != "sum"
        ):
            return None
        return dataclasses.replace(condition, left=m.Below(worked, m.ColumnKey(plan.table, number.name)))

    def _as_condition(self, value: object) -> object:
        """What was planned and what came of it, where both stand on the same rows."""
        if isinstance(value, Reached):
            came = self.nouns.came_of(value.planned.expr)
            if came is None and isinstance(value.planned.expr, m.Col):
                came = plan_came(self.nouns.vocabulary, value.planned.expr.key)
            if came is not None:
                return Part(m.Compared(value.op, came, value.planned.expr), "number")
        if isinstance(value, Leading):
            kind = value.kind.table or (value.kind.key.table if value.kind.key is not None else None)
            if value.by == Counted(Noun()) and kind is not None:
                # The busiest are those of whom there is most to do.
                done = next((t for t in self._happening_to(kind) if self._happens(t)), self._doings_of(kind))
                value = dataclasses.replace(value, by=Counted(Noun(table=done)))
            return as_condition(value, self.nouns) or value
        if isinstance(value, Bounded):
            return within_bounds(value, self.nouns) or value
        if isinstance(value, Did):
            return self._did(value)
        if isinstance(value, Held) and (part := self._so_much_of_a_plan(value)) is not None:
            return part
        if isinstance(value, Part) and (added := self._against_a_plan(value.condition)) is not None:
            return Part(added, "number")
        if isinstance(value, Part):
            gap = value.condition.item if isinstance(value.condition, m.Not) else value.condition
            nothing = self._says_none(gap.column) if isinstance(gap, m.Missing) else ()
            if nothing and isinstance(gap, m.Missing) and not self.nouns.column(gap.column).missing:
                # With an allergy: not those where it says that there is none.
                none = m.Is(gap.column, nothing)
                return Part(m.Not(none) if isinstance(value.condition, m.Not) else none, value.kind)
        return value

    def _did(self, did: Did) -> Part:
        """Customers who bought in 2023 have orders of that year; those who joined in 2023 did so by a date of theirs."""
        ideas = tuple(i for v in lexicon.verbs().get(did.verb, ()) if v.kind == "time" for i in v.ideas)
        dated = self.nouns.vocabulary.columns_of_ideas(ideas, numeric=False, dated=True)
        own = max((score for score, key in dated if key.table == did.table), default=0.0)
        happening = self._happening_to(did.table) if own < _HINTED else []
        below = [(s, k.table) for s, k in dated if k.table in happening]
        if not below:
            return Part(did.time, "time")
        return Part(m.Has(m.Rows(max(below)[1], (did.time,))), "related")

    def _says_none(self, key: m.ColumnKey) -> tuple[str, ...]:
        """The values of a category by which it says that there is none."""
        column = self.nouns.column(key)
        if column.type is not Type.TEXT or column.distinct > 60:
            return ()
        return tuple(v for v in column.values if v.strip().lower() in ("none", "no", "nil", "n/a", "nothing", "-"))

    def _variants(self, ask: m.Ask, draft: Draft) -> Iterator[tuple[m.Ask, Draft]]:
        """The same with another date for when things happened, where the table has several."""
        if not any(isinstance(p, m.EventTime) for p in m.parts(ask)):
            return
        table = self.catalogue.table(ask.head)
        usual = table.time_column
        for place, column in enumerate([c for c in table.columns if c.type.is_time and c is not usual][:2]):
            other = draft.copy()
            chosen = m.Col(m.ColumnKey(table.name, column.name))
            # What was decided this year was so on the day that is headed so.
            said = usual is not None and self._is_done_on(draft, ask, chosen.key, m.ColumnKey(table.name, usual.name))
            other.cost("other date", -0.3 if said else 0.5 + 0.1 * place)
            yield m.replaced(ask, {m.EventTime(): chosen}), other  # type: ignore[misc]

    def _is_done_on(self, draft: Draft, ask: m.Ask, key: m.ColumnKey, usual: m.ColumnKey) -> bool:
        """True where the question says that something was done by the word that heads its day, and does not say the usual one."""
        said = {stem(w) for w in draft.words if is_participle(w) or w.endswith(_DOING_ENDS)}
        head = name_parts(key.column)
        if len(head) != 1 or stem(head[0]) not in said or {*name_parts(usual.column)} & {*draft.words}:
            return False
        return key not in m.columns_in((ask.where, ask.quantities, ask.groups), nested=True)

    # --- what all shapes share

    def _conditions(self, draft: Draft, skip: Sequence[m.Condition] = ()) -> tuple[m.Condition, ...]:
        found = []
        for i, part in draft.of(Part):
            if part.condition not in skip:
                found.append(self._in_fractions(draft, i, part.condition))
            draft.used.add(i)
            if part.kind == "latest" and not self._is_panel(draft):
                draft.cost("latest of what happened", 0.5)
        today = {p.day for c in found for p in m.parts(c) if isinstance(p, m.Today)}
        if today and len(found) > 1:
            # Overdue today is so as of today, and nothing that happened on this very day.
            found = [c for c in found if not (isinstance(c, m.Within) and c.low == c.high and c.low in today)]
        found = [c for c in self._never(draft, found) if not self._is_never_missing(c)]
        return _joined(list(dict.fromkeys(found)))

    def _in_fractions(self, draft: Draft, place: int, condition: m.Condition) -> m.Condition:
        """Twenty per cent of a column of fractions is 0.2, and five billion of one told in billions is 5."""
        if not isinstance(condition, m.Compared):
            return condition
        match condition.left:
            case m.Col() as measured:
                pass
            case m.Arithmetic(op="*", left=m.Col() as measured, right=m.Number(value=-1)):
                # What was lost is told in the unit of the profit.
                pass
            case _:
                return condition
        if not isinstance(condition.right, m.Number):
            return condition
        value = condition.right.value
        column = self.nouns.column(measured.key)
        told = f"{column.name} {column.description}".lower()
        scale = next(
            (size for words, size in _SCALES if any(re.search(rf"(?<![a-z]){w}(?![a-z])", told) for w in words)), 0
        )
        if scale and column.high is not None and value >= max(scale, float(column.high)):
            return dataclasses.replace(condition, right=m.Number(value / scale))
        if draft.says(place, ("%", "percent", "pct")):
            if column.high is not None and float(column.high) <= 1.0 < value:
                return dataclasses.replace(condition, right=m.Number(value / 100))
            if not self.nouns.is_rate(measured.key):
                draft.cost("percent of no percentage", 0.5)
        return condition

    def _is_never_missing(self, condition: m.Condition) -> bool:
        """True for "with a name" where every row has one: that only says what to show."""
        return (
            isinstance(condition, m.Not)
            and isinstance(condition.item, m.Missing)
            and not self.nouns.column(condition.item.column).missing
        )

    def _named_by_gaps(self, draft: Draft) -> list[m.Col]:
        """What is named by "with the date" or "giving its author" is to be shown with rows that are listed."""
        found: list[m.Col] = []
        for i, part in draft.of(Part):
            if isinstance(part.condition, m.Not) and isinstance(part.condition.item, m.Missing):
                before = draft.words[: draft.edges[i].start][-1:]
                said = draft.words[draft.edges[i].start]
                if (
                    self._is_never_missing(part.condition)
                    or said in ("giving", "including", "showing")
                    or before == (",",)
                ):
                    found.append(m.Col(part.condition.item.column))
        return found

    def _of_theirs(self, draft: Draft, groups: tuple[m.Expr, ...]) -> list[m.Col]:
        """Customers with their town, where both stand on the same rows: the town beside each of them."""
        own = {g.key.table for g in groups if isinstance(g, m.Col) and not self.nouns.names_rows(g.key)}
        shown = any(
            draft.words[draft.edges[i].start] in ("with", "plus", "including", "showing") for i, _ in draft.of(Part)
        )
        return [e for e in self._named_by_gaps(draft) if shown and e not in groups and e.key.table in own]

    def _is_panel(self, draft: Draft) -> bool:
        """True where what is measured is told again each year, quarter or month of the same things."""
        tables = {k.table for _, v in draft.of(Measured) for k in m.columns_in(v.expr)}
        return bool(tables) and all(self.nouns.vocabulary.is_told_again(t) for t in tables)

    def _never(self, draft: Draft, found: list[m.Condition]) -> list[m.Condition]:
        """ "Rooms nobody has ever booked": no rows of the table that the verb is about; times are of those rows."""
        nevers = draft.of(Never)
        for i, lapsed in draft.of(Lapsed):
            table = self._done_by(draft, lapsed.verb)
            if table is not None:
                draft.used.add(i)
                other = m.Has(m.Rows(table, (lapsed.not_then,)))
                found.append(m.Has(m.Rows(table, (lapsed.then,))))
                if not lapsed.share:
                    found.append(other if lapsed.again else m.Not(other))
        named = [t for _, t in self._tables_named(draft)]
        named += [n.key.table for _, n in draft.of(Noun) if n.key is not None and self.nouns.tells_rows(n.key)]
        named += [c.noun.table for _, c in draft.of(Counted) if c.noun.table is not None]
        for i, never in nevers:
            times = tuple(p.condition for _, p in draft.of(Part) if p.kind == "time")
            if (not_since := self._last_done(never.verb, named, times)) is not None:
                found = [*(c for c in found if c not in times), not_since]
                draft.used.add(i)
                continue
            head = next((t for t in named if self.nouns.children(t)), None)
            if head is None:
                head = next(
                    (n.key.table for _, n in draft.of(Noun) if n.key and self.nouns.children(n.key.table)), None
                )
            told = [n.key for _, n in draft.of(Noun) if n.key is not None and not self.nouns.tells_rows(n.key)]
            when = tuple(p.condition for _, p in draft.of(Part) if p.kind == "time")
            if head is None and not told and "who" in draft.asks():
                # Who has done nothing: those whose doing the rows tell.
                head, told = self._who_might_have(never.verb)
            above = any(event_time(self.catalogue, c) for k in told[:1] for c in self.nouns.children(k.table))
            if head is None and told and when and not above:
                # Species not seen this year have no row of it.
                found = [c for c in found if c not in when]
                found.append(m.Not(m.Has(m.Rows(told[0].table, when))))
                draft.used.add(i)
                continue
            if head is None:
                # Left out, the question would be answered with its opposite.
                draft.cost("never of what", 5.0)
                continue
            children = self.nouns.children(head)
            said = [c for c in children if c in named] or [c for c in children if self.nouns.is_about(c, never.verb)]
            said = said or [
                t.name
                for t in self.catalogue.tables
                if self.nouns.is_about(t.name, never.verb) and self.catalogue.path(t.name, head)
            ]
            if not said:
                draft.cost("never of what", 0.3)
            elif never.verb.lower() in draft.words and any(
                stem(never.verb) in self.nouns.vocabulary.tables[t].parts for t in said
            ):
                # Who never claimed has no claims, whatever is nought.
                draft.cost("never of what", -0.35)
            # Sites that started in 2024, with no calls in 2025, started by a day of their own.
            times = tuple(
                p.condition for _, p in draft.of(Part) if p.kind == "time" and not _is_timed_by(p.condition, head)
            )
            found = [c for c in found if c not in times]
            rows = (said or self._done_below(head) or children)[0]
            own = tuple(p.condition for j, p in draft.of(Part) if p.kind == "time" and j == i)
            if own and len(own) < len(times):
                # Donors of 2023 who did not give in 2024 gave at the one time.
                found.append(m.Has(m.Rows(rows, tuple(t for t in times if t not in own))))
            found.append(m.Not(m.Has(m.Rows(rows, own or times))))
            draft.used.add(i)
        return found

    def _last_done(self, verb: str, named: list[str], times: tuple[m.Condition, ...]) -> m.Condition | None:
        """Who has not visited since June has a last visit before June: where a table says when something was last done."""
        tables = named or [t.name for t in self.catalogue.tables]
        last = [
            key
            for key, words in self.nouns.vocabulary.columns.items()
            if key.table in tables
            and self.nouns.column(key).type.is_time
            and {stem("last"), stem("latest")} & {*words.full}
            and (verb == "came" or any(lexicon.related(stem(verb), p) for p in words.full))
        ]
        if len(last) != 1:
            return None
        key, column = last[0], self.nouns.column(last[0])
        missing = column.missing > 0
        match times:
            case () if missing:
                return m.Missing(key)
            # Of a month that is over the last visit does not tell whether there was one in it.
            case (m.Within(low=dt.date() as low, high=high),) if high is None or str(high) >= (column.high or "")[:10]:
                before = m.Within(m.Col(key), None, low - dt.timedelta(days=1))
                return m.Any((m.Missing(key), before)) if missing else before
            case _:
                return None

    def _of_known_bands(self, ask: m.Ask) -> m.Ask:
        """A cumulative distribution is of the rows whose number is known: in the end it comes to all of them."""
        if not any(isinstance(q, m.Along) and m.is_cumulative_share(q) for q in ask.quantities):
            return ask
        banded = [g.of.key for g in ask.groups if isinstance(g, m.Band) and isinstance(g.of, m.Col)]
        known = (m.Not(m.Missing(k)) for k in banded if self.nouns.column(k).missing)
        return ask.but(where=tuple(dict.fromkeys((*ask.where, *known))))

    def _those_without(self, ask: m.Ask) -> m.Ask:
        """Those with no rows of some kind, where a table lists them all: some have no rows at all."""
        match ask:
            case m.Ask(
                where=(),
                groups=(m.Col(key),),
                having=(m.Having(m.Aggregated("count", None, str(rows), where) as count, "=", m.Number(0.0)),),
            ) if rows == key.table and set(ask.quantities) <= {count}:
                above = (r.other for r in self.catalogue.parents(rows) if r.column == key.column)
                listed = next((t for t in above if self.nouns.naming(t) is not None), None)
                none = m.Not(m.Has(m.Rows(rows, where)))
                return m.Ask(listed, (none,), chart=ask.chart) if listed is not None else ask
            case m.Ask(head=head, quantities=(), groups=()) if event_time(self.catalogue, head) is None:
                # Translators with nothing in May have no time of their own: no jobs of theirs were then.
                doing = next((t for t in self._happening_to(head) if self._happens(t)), None)
                if doing is None:
                    return ask
                return ask.but(where=tuple(_none_at(doing, c) for c in ask.where))
            case _:
                return ask

    def _who_might_have(self, verb: str) -> tuple[str | None, list[m.ColumnKey]]:
        """The table of the people of whom it is told what they do; where there is none, the column that says who."""
        found: list[tuple[bool, bool, str | None, m.ColumnKey]] = []
        for table in self.nouns.facts:
            if not self._happens(table):
                continue
            doer = self.nouns.person(table, buys=False)
            if doer is None:
                about = not self.nouns.is_about(table, verb)
                far = [t for t in self._far_above(table) if self.nouns.is_of_people(t)]
                found += [(False, about, t, m.ColumnKey(t, k.name)) for t in far if (k := self.catalogue.table(t).key)]
                continue
            own = names_rows(doer.key, self.catalogue)
            above = (link.other for link in self.catalogue.parents(table) if link.column == doer.key.column)
            people = own.table if own is not None and own.table != table else next(above, None)
            found.append((people is None, not self.nouns.is_about(table, verb), people, doer.key))
        if not found:
            return None, []
        best = min(found, key=lambda one: one[:2])
        return best[2], [best[3]]

    def _done_by(self, draft: Draft, verb: str) -> str | None:
        """The table that tells what was done by the things that are named: those that point at them, or their own."""
        named = [t for _, t in self._tables_named(draft)]
        named += [n.key.table for _, n in draft.of(Noun) if n.key is not None and self.nouns.tells_rows(n.key)]
        head = next((t for t in named if self.nouns.children(t)), None)
        if head is not None:
            children = [c for c in self.nouns.children(head) if event_time(self.catalogue, c) is not None]
            said = [c for c in children if c in named]
            said = said or [c for c in (*children, *self._happening_to(head)) if self.nouns.is_about(c, verb)]
            return next(iter(said or self._done_below(head) or children), None)
        flat = [n.key.table for _, n in draft.of(Noun) if n.key is not None and not self.nouns.tells_rows(n.key)]
        about = [t for t in self.nouns.facts if self.nouns.is_about(t, verb) and event_time(self.catalogue, t)]
        about.sort(key=lambda t: self.catalogue.table(t).time_column is None)
        if not flat and not about and "who" in draft.asks() and (people := self._who_might_have(verb)[0]) is not None:
            # Who bought: those who did what is told of people.
            about = self._done_below(people)
        return next(iter((*flat, *about)), None)

    def _rows_said(self, draft: Draft) -> set[str]:
        """The tables whose single rows a question speaks of: by their name, by what names them or points at them."""
        nouns = [n for _, n in draft.of(Noun)] + [c.noun for _, c in draft.of(Counted)]
        keys = {n.key for n in nouns if n.key is not None}
        pointed = {r.other for r in self.catalogue.relationships if m.ColumnKey(r.table, r.column) in keys}
        named = {n.table for n in nouns if n.table is not None}
        return named | pointed | {k.table for k in keys if self.nouns.tells_rows(k)}

    def _tables_named(self, draft: Draft) -> list[tuple[int, str]]:
        return [(i, n.table) for i, n in draft.of(Noun) if n.table is not None]

    def _head(self, draft: Draft, *nodes: object) -> str:
        """The table a question is about when no noun says it: the lowest that its columns need, else the main one."""
        named = [t for _, t in self._tables_named(draft)]
        tables = [*m.counted_in(nodes), *(t for node in nodes for t in tables_of(node))]
        if named and all(self.catalogue.path(named[0], t) is not None for t in tables):
            return named[0]
        if tables:
            found = lowest_table(list(dict.fromkeys(tables)), self.catalogue)
            if found is not None:
                return found
        if named:
            return named[0]
        apart = [t for t in tables if not any(self.catalogue.path(other, t) for other in tables if other != t)]
        if apart:
            # Nights per inhabitant are of nights, which meet the inhabitants in their country.
            return apart[0]
        conditions = [t for _, p in draft.of(Part) for t in tables_of(p.condition)]
        conditions += [t for _, v in draft.of(Versus) for c in (v.one, v.two) if c is not None for t in tables_of(c)]
        if conditions:
            found = lowest_table(list(dict.fromkeys(conditions)), self.catalogue)
            if found is not None:
                return found
        return self._main_at_times(nodes)

    def _held_kinds(self, draft: Draft) -> list[m.Condition]:
        """The two kinds of something that are held against each other, men and women, where each is many rows."""
        held = [c for _, v in draft.of(Versus) for c in (v.one, v.two) if c is not None]
        keys = {k for k in m.columns_in(held) if self.nouns.column(k).role is not Role.LINK}
        many = all(2 * self.nouns.column(k).distinct <= self.catalogue.table(k.table).rows for k in keys)
        return held if keys and many else []

    def _main_at_times(self, nodes: object) -> str:
        """The table that the workspace is mostly about, of those that tell the day where days or months are asked for."""
        times = [p for p in m.parts(nodes) if isinstance(p, m.PartOf) and isinstance(p.of, m.EventTime)]
        if any(p.unit not in ("year", "decade") for p in times):
            for name in self.nouns.facts:
                time = self.catalogue.table(name).time_column
                if time is not None and time.type.is_time:
                    return name
        return self.nouns.facts[0]

    def count(self, draft: Draft, counted: Counted) -> m.Aggregated | None:
        noun = counted.noun
        if noun.table is not None:
            pointing = self._pointing_in_time(noun.table)
            if counted.distinct and pointing is not None and any(p.kind == "time" for _, p in draft.of(Part)):
                # Different drivers who worked in March are those of the trips then.
                return m.Aggregated("distinct", m.Col(pointing))
            if (held := self._held_of_one(draft, noun.table)) is not None:
                return m.Aggregated("sum", held)
            return self.nouns.counted(noun.table)
        if noun.key is not None:
            column = self.nouns.column(noun.key)
            scored = column.role is Role.SCORE and column.is_measure
            if (column.type.is_time or scored) and column.missing and not counted.distinct:
                # Replies are the rows on which it stands when the reply came, and ratings those that have one.
                if column.type.is_time:
                    draft.cost("counted by a date", 0.1)
                return m.Aggregated("count", table=noun.key.table, where=(m.Not(m.Missing(noun.key)),))
            if column.type is Type.TIME and not counted.distinct:
                # How many arrived: those that have the time at which they did.
                here = (m.Not(m.Missing(noun.key)),) if column.missing else ()
                return m.Aggregated("count", table=noun.key.table, where=here)
            if column.type.is_time and noun.key in self.nouns.dates and not counted.distinct:
                # Starters are those who started, counted by when they did.
                timed = any(p.kind == "time" for _, p in draft.of(Part)) or any(
                    isinstance(g.by, m.PartOf) for _, g in draft.of(Grouped)
                )
                told = m.Aggregated("count", table=noun.key.table, where=(m.Not(m.Missing(noun.key)),))
                return told if timed and not {"date", "dates", "days"} & set(draft.words) else None
            if column.type.is_time or column.role is Role.FLAG:
                return None
            called_so = (
                self.nouns.vocabulary.columns[noun.key].parts == self.nouns.vocabulary.tables[noun.key.table].parts
            )
            apart = counted.distinct or bool(_APART & set(draft.words))
            if not apart and self._are_troubles(noun.key):
                # How many faults there were: the rows that have one, and not the kinds of fault there are.
                return m.Aggregated("count", table=noun.key.table, where=(m.Not(m.Missing(noun.key)),))
            if not apart and draft.of(Part) and self._are_doings(noun.key):
                # How many trips were cancelled: each that was made counts, and not the kinds of trips there are.
                return self.nouns.counted(noun.key.table)
            if self.nouns.tells_rows(noun.key) or (called_so and not counted.distinct and column.type.is_number):
                return self.nouns.counted(noun.key.table)
            if column.is_measure and not counted.distinct:
                draft.cost("different amounts", 0.35)
            if not apart and _MANNER & {*name_parts(noun.key.column)[-1:]}:
                # How many were reported is of those, and not of the ways in which they were.
                draft.cost("ways of doing", 0.4)
            numbered = self.nouns.is_numbered(noun.key) or (called_so and column.type is Type.TEXT)
            if numbered and not counted.distinct and not self.nouns.vocabulary.is_of_other_rows(noun.key):
                # Where each row has a class number, or the table is of classes, these are its rows before they are kinds.
                draft.cost("kinds of numbered rows", 0.4)
            if any(isinstance(p.condition, m.Is) and p.condition.column == noun.key for _, p in draft.of(Part)):
                draft.cost("different ones of a few", 0.6)
            return m.Aggregated("distinct", m.Col(noun.key))
        head = self._head(draft)
        if counted.doings:
            return self.nouns.counted(self._doings_of(head))
        grouped = [g.by.key.table for _, g in draft.of(Grouped) if isinstance(g.by, Noun) and g.by.key is not None]
        if not noun.unknown and grouped and not self._tables_named(draft) and not draft.of(Part):
            # For each kind of donor, how many there are counts the donors.
            head = lowest_table(list(dict.fromkeys(grouped)), self.catalogue) or head
        for_whom = [n.key.table for _, n in draft.of(Noun) if n.key is not None]
        if not noun.unknown and for_whom and self.catalogue.path(head, for_whom[0]) is None:
            # Clients who came twice did so in what happened to clients, whatever else there is more of.
            head = next(iter(self._happening_to(for_whom[0])), head)
        if stem(noun.unknown.lower()) in _PEOPLE:
            came = self._who_came(head) if _COMING & set(draft.words) else None
            if came is not None:
                # How many people came is told by the numbers of those who did, and not by who led them.
                return m.Aggregated("sum", came)
            # People in bookings are those that a column names.
            tables = [*self.nouns.children(head), head, *self.nouns.facts]
            person = next(
                (p for t in tables if self.catalogue.path(t, head) is not None and (p := self.nouns.person(t))), None
            )
            if person is not None:
                draft.cost("rows by another word", 0.2)
                return m.Aggregated("distinct", person)
        if noun.unknown:
            several = len(self.catalogue.tables) > 1 and not draft.of(Part) and not self._tables_named(draft)
            draft.cost("rows by another word", 0.45 if several else 0.25)
        return self.nouns.counted(head)

    def _of_those_there(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Attendance by month is of those who were there, in a register of all."""
        if not _ATTENDANCE & set(draft.words):
            return ask
        there: dict[object, object] = {}
        for part in m.parts(ask.quantities):
            match part:
                case m.Aggregated(function="count", expr=None, table=str(table), where=()):
                    came = self._was_there(table)
                    if came is not None and came.column not in m.columns_in(ask):
                        there[part] = dataclasses.replace(part, where=(came,))
                case _:
                    pass
        return m.replaced(ask, there) if there else ask  # type: ignore[return-value]

    def _was_there(self, table: str) -> m.Is | None:
        """That somebody was there, where a yes or no on each row says so."""
        for column in self.catalogue.table(table).columns:
            key = m.ColumnKey(table, column.name)
            if column.type is Type.BOOLEAN and _ATTENDED & set(self.nouns.vocabulary.columns[key].parts):
                return m.Is(key, (True,))
        return None

    def _who_came(self, table: str) -> m.Col | None:
        """The column that says how many people were there."""
        for column in self.catalogue.table(table).columns:
            key = m.ColumnKey(table, column.name)
            if column.role is Role.QUANTITY and _PRESENT & set(self.nouns.vocabulary.columns[key].parts):
                return m.Col(key)
        return None

    def _pointing_in_time(self, table: str) -> m.ColumnKey | None:
        """The column of dated rows that points at the rows of a table."""
        links = (r for r in self.catalogue.relationships if r.other == table)
        dated = (r for r in links if event_time(self.catalogue, r.table) is not None)
        return next((m.ColumnKey(r.table, r.column) for r in dated), None)

    def _quantities(self, draft: Draft, *, bare: bool = True) -> list[m.Quantity]:
        """Everything that a question asks to be worked out, in its order."""
        found: list[m.Quantity] = []
        functions = draft.of(Function)
        measured = draft.of(Measured)
        places: list[int] = []
        for i, value in draft.items:
            known = len(found)
            match value:
                case Worked(quantity=quantity):
                    match quantity:
                        case m.OverGroups(quantity=m.Aggregated(function="sum", expr=expr), each=m.PartOf()) if (
                            expr is not None
                            and (
                                self.nouns.function(expr) != "sum"
                                or (isinstance(expr, m.Given) and not self._is_paid(expr))
                            )
                        ):
                            # The monthly average of a temperature is of each month's days, and of no sums.
                            draft.cost("sums of what is averaged", 1.0)
                    found.append(quantity)
                    draft.used.add(i)
                case Joined(expr=expr, each=each):
                    found.append(self.nouns.level(expr) if each else self.nouns.aggregate(expr))
                    draft.used.add(i)
                case Noun(table=str(rows)) if draft.joined_to_figure(i) and (
                    draft.of(Grouped) or self._is_worked_of(draft, rows)
                ):
                    # Visits and average rating by clinic: how many there are of the one, beside the other.
                    found.append(self.nouns.counted(rows))
                    draft.used.add(i)
                case Counted(noun=Noun(table=None, key=None, unknown="")) if draft.of(Moved):
                    # In how many districts births fell counts these, and is no number of rows beside.
                    draft.used.add(i)
                case Counted():
                    counted = self.count(draft, value)
                    if counted is not None:
                        found.append(counted)
                        draft.used.add(i)
                case Some(condition=condition):
                    counted = next((q for q in found if isinstance(q, m.Aggregated) and q.expr is None), None)
                    named = self._tables_named(draft)
                    if counted is None and named:
                        # Of the visits with a long wait, how many were so.
                        counted = self.nouns.counted(named[0][1])
                        draft.used.add(named[0][0])
                        if draft.words[draft.edges[i].start] == "and":
                            # Claims by cause, and how many were declined: how many there are as well.
                            found.append(counted)
                    if counted is not None:
                        found.append(dataclasses.replace(counted, where=(*counted.where, condition)))
                        draft.used.add(i)
                case Worth() | Lapsed(share=True) | OfTop() | Rated() | Ratio():
                    worked = self._worked(draft, value, functions)
                    if worked is not None:
                        found.append(worked)
                        draft.used.add(i)
                case Measured(verb=True) if not draft.asks_besides(i) and (
                    self._said_besides(draft, i) or any(t.counts for _, t in draft.of(Top))
                ):
                    draft.used.add(i)
                case Measured(expr=m.Length()) if any(isinstance(p, m.Length) for p in m.parts(tuple(found))):
                    # "How long" and "days" say the same length.
                    draft.used.add(i)
                case Measured(expr=expr) if any(
                    isinstance(g.by, m.Band) and g.by.of == expr for _, g in draft.of(Grouped)
                ):
                    # By bands of age, taking the age they reach: what is put in bands is said again.
                    draft.used.add(i)
                case Measured(expr=expr) if bare:
                    if functions:
                        for j, function in functions:
                            found.append(m.Aggregated(function.function, expr, percent=function.percent))  # type: ignore[arg-type]
                            draft.used.add(j)
                            draft.cost("apart", 0.12)
                    else:
                        said = any(isinstance(v, (Worked, Counted, Ratio)) for _, v in draft.items)
                        others = sum(isinstance(v, Measured) for _, v in draft.items) > 1
                        joined = draft.asks_besides(i) or any(v.kind == "also" for _, v in draft.of(Marker))
                        word = draft.words[draft.edges[i].start]
                        if word.endswith("ing") and word in lexicon.verbs() and draft.of(Noun):
                            # Tenants paying by card are those who do so.
                            draft.cost("measured by a verb", 0.4)
                        draft.cost(
                            "bare measure", 0.3 if said and not joined else 0.14 if others and not joined else 0.04
                        )
                        found.append(self.nouns.aggregate(expr))
                    draft.used.add(i)
                case _:
                    pass
            if len(found) > known:
                places.append(i)
        bare_beside = sum(isinstance(v, Measured) for i, v in draft.items if i in places) if draft.of(Shared) else 0
        draft.cost("side by side", 0.4 * draft.apart(places) + 0.25 * bare_beside)
        draft.cost("rows' own name for a figure", 0.3 * self._figures_called_as_rows(draft, places))
        found = self._summed_by_verbs(draft, found)
        held = [h.quantity.quantity for _, h in draft.of(Held) if isinstance(h.quantity, Worked)]
        if not measured and (found or held) and all(isinstance(q, (m.Combined, m.ShareOf)) for q in found or held):
            # How full they were on average, the rate on average: what is a ratio is no mean of ratios.
            worded = [
                (i, f, draft.words[draft.edges[i].start]) for i, f in functions if f.function == "mean" and not f.main
            ]
            dropped = [(i, f) for i, f, word in worded if word == "on" or held]
            draft.used.update(i for i, _ in dropped)
            functions = [f for f in functions if f not in dropped]
        if functions and not measured:
            found = (
                self._over_each(draft, functions, found)
                or _of_each_time(draft, functions, found)
                or [*found, *self._of_the_rows(draft, functions, found)]
            )
        return list(dict.fromkeys(found))

    def _figures_called_as_rows(self, draft: Draft, places: Sequence[int]) -> int:
        """How many words stand for a figure that is only described by them, and are a table's name themselves."""
        return sum(
            leaf.category == "M"
            and leaf.score < _HINTED
            and tuple(map(stem, draft.words[leaf.start : leaf.end])) in self._names_of_rows
            for place in dict.fromkeys(places)
            for leaf in leaves(draft.edges[place])
        )

    @functools.cached_property
    def _names_of_rows(self) -> frozenset[tuple[str, ...]]:
        """What each table is called, in stems."""
        return frozenset(tuple(stem(p) for p in name_parts(t.name)) for t in self.catalogue.tables)

    def _is_worked_of(self, draft: Draft, rows: str) -> bool:
        """True where what is worked out is of those rows: their number stands beside it, and no list of them is meant."""
        return any(
            isinstance(q, m.Aggregated) and tables_of(q.expr) == [rows]
            for q in (w.quantity for _, w in draft.of(Worked))
        )

    def _worked(
        self, draft: Draft, value: Worth | Lapsed | OfTop | Rated | Ratio, functions: Sequence[tuple[int, Function]]
    ) -> m.Quantity | None:
        """The quantity that a piece stands for once the tables are known, where they have what it needs."""
        match value:
            case Worth():
                return self._worth(value)
            case Lapsed():
                return self._kept_on(draft, value)
            case OfTop():
                return self._of_top(draft, value)
            case Rated():
                return self._rated(value)
            case Ratio():
                return self.ratio(draft, value, functions)

    def _rated(self, value: Rated) -> m.Combined | None:
        """A part as a percentage of what it is a part of."""
        expr = value.expr
        if isinstance(expr, m.Col) and self.nouns.is_rate(expr.key):
            return None
        base = self.nouns.base_of(expr)
        if value.whole is not None and value.whole not in m.parts(base):
            # What is scrapped of the pieces is of all that were made, and not of the good ones.
            base = value.whole
        return _percentage(expr, base) if base is not None else None

    def _kept_on(self, draft: Draft, lapsed: Lapsed) -> m.ShareOf | None:
        """The share of those who did so at one time that did again at another."""
        table = self._done_by(draft, lapsed.verb)
        if table is None:
            return None
        named = self._tables_named(draft)
        above = [r.other for r in self.catalogue.relationships if r.table == table and self.nouns.is_of_people(r.other)]
        head = next((t for _, t in named if t != table), None) or next(iter(above), None)
        draft.used.update(i for i, _ in named)
        return m.ShareOf((m.Has(m.Rows(table, (lapsed.not_then,))),), head) if head is not None else None

    def _so_many_percent(self, things: Noun | None, each: m.Col, percent: float) -> int:
        """How many there are of so many in a hundred of some things, at least one."""
        of_all = self.nouns.column(each.key).distinct
        if things is not None and things.table is not None:
            of_all = self.catalogue.table(things.table).rows
        return max(1, round(of_all * percent / 100))

    def _of_top(self, draft: Draft, value: OfTop) -> m.ShareOf | None:
        """How much of a sum is of the five best customers: they are found first, by that sum or by what is said."""
        group = self.nouns.group(value.top.noun) if value.top.noun is not None else None
        if not isinstance(group, m.Col) or value.top.number is None:
            return None
        # Two owners may be called alike.
        group = m.Col(names_rows(group.key, self.catalogue) or group.key)
        of: m.Expr | None = None
        if isinstance(value.of, Measured):
            of = value.of.expr
        elif value.of.table is None:
            return None
        elif self.nouns.is_of_money(value.of.table):
            of = self.nouns.main_measure(value.of.table)
        table = value.of.table if isinstance(value.of, Noun) and of is None else None
        quantity = self.nouns.aggregate(of) if of is not None else self.nouns.counted(table or group.key.table)
        ranked: m.Quantity = self.nouns.aggregate(value.top.by) if value.top.by is not None else quantity
        if value.rank is not None:
            ranked = self.count(draft, value.rank) or ranked
        elif value.top.counts:
            ranked = self.nouns.counted(self._head(draft, quantity))
        limit = value.top.number
        if value.top.percent:
            limit = self._so_many_percent(value.top.noun, group, value.top.number)
        first = m.Ask(
            self._head(draft, ranked, group),
            self._conditions(draft),
            (ranked,),
            (group,),
            order=(m.Order(ranked, value.top.descending),),
            limit=limit,
        )
        return m.ShareOf((m.Among(group.key, first),), table, of)

    def _summed_by_verbs(self, draft: Draft, found: list[m.Quantity]) -> list[m.Quantity]:
        """How many lattes were sold: of rows that tell how many, their sum and not how many rows there are."""
        counts = [c for _, c in draft.of(Counted) if not c.distinct]
        verbs = [v.expr for _, v in draft.of(Measured) if v.verb and isinstance(v.expr, m.Col)]
        if len(counts) != 1 or len(verbs) != 1 or self._tables_named(draft) or _APART & set(draft.words):
            return found
        if ("do", "we") in itertools.pairwise(draft.words) and _KEEPING_THEM & set(draft.words):
            # How many vans we run is how many there are.
            return found
        noun, expr = counts[0].noun, verbs[0]
        column = self.nouns.column(expr.key)
        tells = (
            noun.table is not None
            or bool(noun.unknown)
            or (noun.key is not None and not self.nouns.tells_rows(noun.key))
        )
        if not tells or column.role is not Role.QUANTITY or column.type is not Type.INTEGER:
            return found
        rows = m.Aggregated("count", table=expr.key.table)
        summed = self.nouns.aggregate(expr)
        above = [r.other for r in self.catalogue.parents(expr.key.table)]
        named = [
            q
            for q in found
            if q == rows
            or (isinstance(q, m.Aggregated) and (q.function == "distinct" or (q.table in above and not q.where)))
        ]
        return [summed if q in named else q for q in found] if len(named) == 1 else found

    def _worth(self, worth: Worth) -> m.Quantity | None:
        """What things come to, each by itself, put together: of their own amounts, or of those of the rows below."""
        table = worth.of.table or (worth.of.key.table if worth.of.key is not None else "")
        if not table:
            return None
        if worth.by is not None:
            return self._spent_by_each(worth, table)
        expr = self.nouns.main_measure(table)
        key = worth.of.key
        if key is not None and not self.nouns.tells_rows(key) and expr is not None:
            return m.OverGroups(worth.function, self.nouns.aggregate(expr), m.Col(key), worth.percent)  # type: ignore[arg-type]
        lines = next((c for c in self.nouns.children(table) if self.nouns.has_money(c)), None)
        own = self.catalogue.table(table).key
        if lines is not None and own is not None and not self.nouns.has_total(table):
            expr = self.nouns.main_measure(lines)
            if expr is not None and worth.function == "sum":
                # What all come to is what their lines come to.
                return self.nouns.aggregate(expr)
            if expr is not None:
                each = m.Col(m.ColumnKey(table, own.name))
                return m.OverGroups(worth.function, self.nouns.aggregate(expr), each, worth.percent)  # type: ignore[arg-type]
            return None
        return m.Aggregated(worth.function, expr, percent=worth.percent) if expr is not None else None  # type: ignore[arg-type]

    def _spent_by_each(self, worth: Worth, table: str) -> m.Quantity | None:
        """What a customer spends on average: all that each has spent, and not what stands on a row."""
        assert worth.by is not None and worth.by.key is not None
        summed, own = m.Aggregated("sum", m.Col(worth.by.key)), self.catalogue.table(table).key
        if worth.by.key.table == table:
            return m.Aggregated(worth.function, m.Col(worth.by.key))  # type: ignore[arg-type]
        if own is None or not self.catalogue.path(worth.by.key.table, table):
            return None
        return m.OverGroups(worth.function, summed, m.Col(m.ColumnKey(table, own.name)))  # type: ignore[arg-type]

    def _over_each(
        self, draft: Draft, functions: Sequence[tuple[int, Function]], found: list[m.Quantity]
    ) -> list[m.Quantity]:
        """How many visits each owner has on average: the groups are worked over."""
        groups = [(i, g) for i, g in draft.of(Grouped) if isinstance(g.by, Noun)]
        if len(found) != 1 or len(groups) != 1 or functions[0][1].function not in ("mean", "median", "max", "min"):
            return []
        if functions[0][1].beside or draft.joined_to_count(functions[0][0]):
            # Number and average: of what the rows come to.
            return []
        counted, (place, group) = found[0], groups[0]
        if not isinstance(counted, m.Aggregated) or counted.expr is not None or not isinstance(group.by, Noun):
            return []
        each = self.nouns.group(group.by)
        if each is None:
            return []
        draft.used.update((place, functions[0][0]))
        draft.items = tuple((i, v) for i, v in draft.items if i != place)
        return [m.OverGroups(functions[0][1].function, counted, each)]  # type: ignore[arg-type]

    @staticmethod
    def _said_besides(draft: Draft, place: int) -> bool:
        """True where a verb's measure stands beside one that is named."""
        return any(
            isinstance(v, (Worked, Counted, Ratio, Shared)) or (isinstance(v, Measured) and not v.verb and i != place)
            for i, v in draft.items
        )

    def _of_the_rows(
        self, draft: Draft, functions: Sequence[tuple[int, Function]], found: list[m.Quantity]
    ) -> list[m.Quantity]:
        """Average order, median claim: of the table's main measure."""
        made: list[m.Quantity] = []
        for i, function in functions:
            counted = found[0] if len(found) == 1 else None
            if isinstance(counted, m.Aggregated) and counted.expr is None and counted.table and not counted.where:
                beside = function.beside or draft.joined_to_count(i) or (function.main and draft.asks_besides(i))
                money = self._money_beside(counted.table) if beside else None
                if money is not None:
                    made.append(m.Aggregated(function.function, money, percent=function.percent))  # type: ignore[arg-type]
                    draft.used.add(i)
                    continue
            if function.function == "sum" and found:
                draft.used.add(i)
                continue
            if found and isinstance(found[0], m.Aggregated) and found[0].expr is not None:
                made.append(m.Aggregated(function.function, found[0].expr, percent=function.percent))  # type: ignore[arg-type]
                draft.used.add(i)
                if found[0].function == "sum" and len(found) == 1:
                    # "How many sessions did they attend on average" is no sum.
                    found.clear()
                continue
            if found:
                continue
            nouns = [n for _, n in draft.of(Noun)]
            head = self._head(draft)
            expr = self.nouns.main_measure(head)
            if self._is_counted_in_all(draft, i, function, head):
                # Visits in total are how many there were.
                made.append(self.nouns.counted(head))
                draft.used.add(i)
                continue
            if expr is None and not nouns:
                # The total for a customer is that of what was theirs.
                below = [t for t in self._happening_to(head) if self._happens(t)]
                expr = next((e for t in below if (e := self.nouns.main_measure(t)) is not None), None)
            if (
                function.function == "sum"
                and isinstance(expr, m.Col)
                and not self.nouns.column(expr.key).role.is_summed
            ):
                # How much was ordered stands on the lines, and not in the discount of each order.
                parts = (self.nouns.main_measure(t) for t in self.nouns.children(head))
                expr = next((e for e in parts if e is not None and self._adds_up(e)), expr)
            # The total by campaign is that of the one figure that stands on what has campaigns.
            alone = bool(draft.of(Grouped)) and isinstance(expr, m.Col) and self._is_its_only_figure(expr.key)
            if expr is None or not (nouns or function.main or draft.of(Part) or alone):
                continue
            for j, noun in draft.of(Noun):
                if noun.table == head or noun.unknown:
                    draft.used.add(j)
                    if noun.unknown:
                        # Rows are rarely called what nothing here is called, and what is averaged hardly ever.
                        draft.cost("rows by another word", 1.1)
            short = [e for _, p in draft.of(Part) if p.kind == "state" and (e := _falls_short(p.condition)) is not None]
            if function.main and short:
                # How much is owed is what the paid falls short of the charged by, and not all that was charged.
                expr = short[0]
            made.append(m.Aggregated(function.function, expr, percent=function.percent))  # type: ignore[arg-type]
            draft.used.add(i)
            draft.cost("main measure", 0.2)
        return made

    def _adds_up(self, expr: m.Expr) -> bool:
        return all(self.nouns.column(k).role.is_summed for k in m.columns_in(expr))

    def _by_their_orders(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Who ordered ten times has ten orders, however many lines; an average per order is of what orders come to."""
        key = self.nouns.docket(ask.head) if ask.head and not ask.lists else None
        said = {stem(w) for w in draft.words}
        if key is None or not said & DOCKETS:
            return ask
        orders = m.Aggregated("distinct", m.Col(key))
        if ask.having and not said & _LINES:
            found = m.replaced(ask, {m.Aggregated("count", table=ask.head): orders})
            assert isinstance(found, m.Ask)
            return found
        match ask:
            case m.Ask(
                groups=(m.Col(key=by),), quantities=(m.Aggregated(function="mean", expr=m.Col() as figure),)
            ) if (
                by == key and {"per", "each", "every"} & {*draft.words} and self.nouns.column(figure.key).role.is_summed
            ):
                each = m.OverGroups("mean", m.Aggregated("sum", figure), m.Col(key))
                return ask if ask.order or ask.limit is not None else ask.but(groups=(), quantities=(each,))
            case _:
                return ask

    def _is_paid(self, expr: m.Expr) -> bool:
        """True for sums of money, as what was spent is."""
        return any(self.nouns.column(k).role is Role.MONEY for k in m.columns_in(expr))

    def _is_its_only_figure(self, key: m.ColumnKey) -> bool:
        """True for the only number on the rows of a table, or the only one that is money."""
        measures = [c for c in self.catalogue.table(key.table).columns if c.is_measure]
        money = [c for c in measures if c.role is Role.MONEY]
        return [c.name for c in (money or measures)] == [key.column]

    def _is_counted_in_all(self, draft: Draft, place: int, function: Function, head: str) -> bool:
        """True for visits in total, where these are named alone, and are no sums of money."""
        if function.function != "sum" or function.main or draft.says(place, ("sum", "summed")):
            return False
        if any(p.kind == "number" for _, p in draft.of(Part)) or len(draft.of(Noun)) != 1:
            return False
        named, noun = draft.of(Noun)[0]
        start = draft.edges[named].start
        return (
            noun.table == head
            and start < draft.edges[place].start
            and not self.nouns.is_of_money(head, draft.words[start])
        )

    def _money_beside(self, counted: str) -> m.Expr | None:
        """What the rows that are counted come to, else what those that happened to them do."""
        tables = [counted, *(t for t in self._happening_to(counted) if self._happens(t))]
        return next((e for t in tables if (e := self.nouns.main_measure(t)) is not None), None)

    def _part_of_ratio(self, draft: Draft, part: object) -> m.Quantity | None:
        match part:
            case Worked(quantity=quantity):
                return quantity
            case Measured(expr=expr):
                return m.in_all(expr)
            case Counted():
                return self.count(draft, part)
            case Noun():
                return self.count(draft, Counted(part))
            case Ratio():
                return self.ratio(draft, part, [])
            case Rated():
                return self._rated(part)
            case Part(condition=condition):
                held = dict(self.nouns.vocabulary.figures)
                if isinstance(condition, m.Is) and condition.column in held:
                    # Births are a figure, and not the rows that tell of them.
                    return m.Aggregated("sum", m.Given(m.Col(held[condition.column]), condition))
                return dataclasses.replace(self.nouns.counted(tables_of(condition)[0]), where=(condition,))
            case Worth():
                return self._worth(part)
            case _:
                return None

    def ratio(self, draft: Draft, ratio: Ratio, functions: Sequence[tuple[int, Function]]) -> m.Quantity | None:
        found = self._ratio(draft, ratio, functions)
        return m.Combined("*", found, m.Number(ratio.times)) if found is not None and ratio.times != 1.0 else found

    def _ratio(self, draft: Draft, ratio: Ratio, functions: Sequence[tuple[int, Function]]) -> m.Quantity | None:
        for i, _ in functions:
            draft.used.add(i)
        top, bottom = self._part_of_ratio(draft, ratio.top), self._part_of_ratio(draft, ratio.bottom)
        if isinstance(top, m.Aggregated) and isinstance(bottom, m.Aggregated) and top.table and bottom.table:
            between = self._between(top.table, bottom.table, _doing_words(draft.words))
            if between is not None:
                # People per session are bookings of sessions.
                top = dataclasses.replace(top, table=between)
        if isinstance(ratio.top, Counted) and ratio.top.distinct and isinstance(ratio.bottom, Noun):
            return self._different_ones_each(draft, ratio.top, ratio.bottom)
        if top is None or bottom is None or top == bottom:
            return None
        sides = [(s.expr, s.where) for s in (top, bottom) if isinstance(s, m.Aggregated) and s.expr is not None]
        if len(sides) == 2 and sides[0] == sides[1]:
            # Cost is not told for each of its own coins.
            return None
        top = self._in_money(top, bottom)
        if functions and any(isinstance(v, Counted) for _, v in draft.items):
            # Number of visits and average fee per vet: both are told of each vet.
            draft.cost("average of a ratio beside a count", 0.4)
        told_so = self._told_per(ratio)
        if told_so is not None and not functions:
            return told_so
        if self._is_the_price_of_one(top, bottom):
            # The price per bottle stands beside how many bottles there are.
            return dataclasses.replace(top, function="mean")
        match top, bottom:
            case (
                m.Aggregated(function="median" | "max" | "min" as end, expr=m.Col(key=one) as price, percent=None),
                m.Aggregated(function="sum", expr=m.Col(key=two) as size),
            ) if one.table == two.table and GROUND & {*name_parts(two.column)}:
                # The median price per square metre is the middle one of what each has.
                return m.Aggregated(end, m.Arithmetic("/", price, size))
            case m.Aggregated(function="mean", expr=m.Col(key=one) as price), m.Aggregated(expr=m.Col(key=two)) if (
                one.table == two.table and GROUND & {*name_parts(two.column)}
            ):
                return m.Combined("/", m.Aggregated("sum", price), bottom)
            case _:
                pass
        if (
            isinstance(top, m.Aggregated)
            and top.expr is not None
            and isinstance(bottom, m.Aggregated)
            and bottom.expr is None
            and bottom.table in tables_of(top.expr)
        ):
            function = "mean" if top.function in ("sum", "mean") else top.function
            if not functions and not draft.of(Grouped) and self._are_named_things(bottom.table):
                # Profit per product is told for each of them.
                draft.cost("ratio of named things", 0.5)
            if bottom.where:
                # The loss per theft is that of thefts alone.
                such = bottom.where[0] if len(bottom.where) == 1 else m.All(bottom.where)
                return m.Aggregated(function, m.Given(top.expr, such))
            return m.Aggregated(function, top.expr)
        told = next((f for _, f in functions if f.function not in ("mean", "sum")), None)
        if told is not None:
            # The median number of visits per owner is over the owners, and no ratio of all to all.
            each = self.nouns.group(ratio.bottom) if isinstance(ratio.bottom, Noun) else None
            if each is None or not isinstance(top, m.Aggregated) or told.function not in ("median", "max", "min"):
                return None
            return m.OverGroups(told.function, top, each)  # type: ignore[arg-type]
        if isinstance(top, m.Aggregated) and isinstance(bottom, m.Aggregated) and top.table and bottom.table:
            if top.table != bottom.table and self.catalogue.path(bottom.table, top.table) is not None:
                draft.cost("more of what each has one of", 0.4)
        ranked = {i for i, _ in draft.of(Top) if not draft.says(i, ("by",))} & {i for i, _ in draft.of(Ratio)}
        if not functions and not draft.of(Grouped) and not ranked:
            # Days lost per pupil are told for each of them, before they are one figure.
            draft.cost("ratio of all", 0.5 if isinstance(ratio.bottom, Noun) and ratio.bottom.table else 0.3)
        if (
            not functions
            and any(isinstance(v, (Direction, Sorted)) for _, v in draft.items)
            and isinstance(ratio.bottom, Noun)
        ):
            # Campaigns per owner, most first, are told owner by owner.
            draft.cost("a ratio in order", 0.5)
        if not functions and draft.words.count("per") > 1:
            # Per driver and per month are two groups.
            draft.cost("ratio among groups", 0.6)
        if isinstance(ratio.bottom, Measured) and top and set(tables_of(top)) != set(tables_of(bottom)):
            own = (c.role is Role.MONEY for t in tables_of(bottom) for c in self.catalogue.table(t).columns)
            if any(own):
                # The price per litre is told by what the litres cost, and not by what vehicles did.
                draft.cost("a ratio over tables", 0.8)
        if isinstance(ratio.top, Worked) and isinstance(top, m.Aggregated) and top.function == "mean":
            # An average per thing is of the thing's totals.
            if isinstance(bottom, m.Aggregated) and top.expr is not None:
                each = self.nouns.group(ratio.bottom) if isinstance(ratio.bottom, Noun) else None
                if each is not None:
                    return m.OverGroups("mean", m.Aggregated("sum", top.expr), each)
            measured = isinstance(ratio.bottom, Measured) and top.expr is not None
            return m.Combined("/", m.Aggregated("sum", top.expr), bottom) if measured else None
        path, ends = self.catalogue.path, [set(tables_of(side) or m.counted_in(side)) for side in (top, bottom)]
        apart = [(a, b) for a in ends[0] for b in ends[1] if a != b and path(a, b) is None and path(b, a) is None]
        if apart:
            # What is spent per owner is told by what owners paid, and not by what the house bought; crimes and
            # people meet in their districts.
            meet = all(any(path(a, t.name) and path(b, t.name) for t in self.catalogue.tables) for a, b in apart)
            draft.cost("parts that nothing joins", 0.2 if meet else 0.5)
        return m.Combined("/", top, bottom)

    def _different_ones_each(self, draft: Draft, counted: Counted, noun: Noun) -> m.Quantity | None:
        """How many different titles a reader borrows on average: of what each of them had, and not of all there are."""
        key = counted.noun.key or self._own_key(counted.noun.table)
        if key is None or noun.table is None:
            return None
        said = _doing_words(draft.words)
        rows = self._between(key.table, noun.table, said) or self._between(noun.table, key.table, said)
        link = next((r for r in self.catalogue.parents(rows or key.table) if r.other == noun.table), None)
        # Two owners may be called the same.
        own = self._own_key(noun.table) if link is None else m.ColumnKey(link.table, link.column)
        each = m.Col(own) if own is not None else self.nouns.group(noun)
        return m.OverGroups("mean", m.Aggregated("distinct", m.Col(key)), each) if each is not None else None

    def _own_key(self, table: str | None) -> m.ColumnKey | None:
        """What tells the rows of a table apart."""
        own = self.catalogue.table(table).key if table is not None else None
        return m.ColumnKey(table, own.name) if table is not None and own is not None else None

    def _is_the_price_of_one(self, top: m.Quantity, bottom: m.Quantity) -> TypeGuard[m.Aggregated]:
        """True for a price of each, held against how many of them the same rows tell of."""
        price = top.expr if isinstance(top, m.Aggregated) and top.function in ("sum", "mean") else None
        many = bottom.expr if isinstance(bottom, m.Aggregated) and bottom.function == "sum" else None
        if not isinstance(price, m.Col) or not isinstance(many, m.Col) or price.key.table != many.key.table:
            return False
        each = self.nouns.column(price.key).role is Role.SCORE and {"price", "each"} & {*name_parts(price.key.column)}
        called = name_parts(many.key.column)
        counted = called[-1] not in lexicon.units() and not GROUND & {*called}
        return bool(each) and counted and self.nouns.column(many.key).role is Role.QUANTITY

    def _are_rows_of(self, group: m.Expr, quantity: m.Quantity) -> bool:
        """True for groups of one row each, on which what is worked out stands."""
        tables = tables_of(quantity)
        if not isinstance(group, m.Col) or len(tables) != 1:
            return False
        own = group.key.table == tables[0] and self.nouns.tells_rows(group.key)
        return own or any(
            r.column == group.key.column and r.other == tables[0] for r in self.catalogue.parents(group.key.table)
        )

    def _is_one_of(self, group: m.Expr, column: m.ColumnKey) -> bool:
        """True where a value of a column is one of the groups, by whatever column these are told apart."""
        if not isinstance(group, m.Col):
            return False
        rows = group.key.table == column.table and self.nouns.tells_rows(group.key) and self.nouns.tells_rows(column)
        return group.key == column or rows or self._tells_one_of(group, m.Col(column))

    def _tells_one_of(self, group: m.Expr, kind: m.Expr) -> bool:
        """True for what points at the rows on which a kind of them stands."""
        if not isinstance(group, m.Col) or not isinstance(kind, m.Col) or group.key.table == kind.key.table:
            return False
        links = self.catalogue.parents(group.key.table)
        return any(r.column == group.key.column and r.other == kind.key.table for r in links)

    def _are_named_things(self, table: str) -> bool:
        """True for few rows that have names, each of which may be told by itself."""
        named = self.nouns.naming(table)
        known = self.nouns.column(named.key).role is Role.NAME if named is not None else False
        return known and 1 < self.catalogue.table(table).rows <= MOST_KINDS

    def _told_per(self, ratio: Ratio) -> m.Aggregated | None:
        """What costs most per tonne, where a column tells the price per tonne: that."""
        unit = ratio.bottom.expr if isinstance(ratio.bottom, Measured) else None
        if not isinstance(ratio.top, Measured) or not ratio.top.verb or not isinstance(unit, m.Col):
            return None
        last = stem(name_parts(unit.key.column)[-1])
        for column in self.catalogue.table(unit.key.table).columns:
            parts = [stem(p) for p in name_parts(column.name)]
            if column.is_measure and "per" in parts and parts[-1] == last:
                return m.Aggregated("mean", m.Col(m.ColumnKey(unit.key.table, column.name)))
        return None

    def _in_money(self, top: m.Quantity, bottom: m.Quantity) -> m.Quantity:
        """Payments over premiums are what these came to: how many there are is nothing against money."""
        if not isinstance(top, m.Aggregated) or top.table is None or not isinstance(bottom, m.Aggregated):
            return top
        below = bottom.expr
        expr = self.nouns.main_measure(top.table) if isinstance(below, m.Col) and self._is_money(below.key) else None
        money = isinstance(expr, m.Col) and self._is_money(expr.key)
        return dataclasses.replace(self.nouns.aggregate(expr), where=top.where) if expr is not None and money else top

    def _between(self, one: str, other: str, said: Sequence[str] = ()) -> str | None:
        """The table whose rows bring two together of which neither points at the other, as a word says how where one does."""
        path = self.catalogue.path
        if one == other or path(one, other) is not None or path(other, one) is not None:
            return None
        shared = [c for c in self.nouns.children(one) if path(c, other) is not None]
        if said and len(shared) < 2:
            # Titles reach those who borrow them by the copies that they lent.
            far = (t.name for t in self.catalogue.tables if path(t.name, one) and path(t.name, other))
            about = [t for t in far if any(self.nouns.is_about(t, word) for word in said)]
            shared = [*(t for t in about if t not in shared), *shared] if len(about) == 1 else shared
        return shared[0] if shared else None

    def _nearer(self, head: str, where: Sequence[m.Condition]) -> tuple[m.Condition, ...]:
        """Members without a class have no booking of one: rows that lie between are what is there or not."""
        found: list[m.Condition] = []
        for condition in where:
            has = condition.item if isinstance(condition, m.Not) else condition
            if isinstance(has, m.Has) and has.rows.table == head and has.rows.where and isinstance(condition, m.Not):
                # Orders never shipped are not: none has orders of its own.
                found += [m.Not(c) for c in has.rows.where]
                continue
            any_at_all = isinstance(has, m.Has) and (has.op, has.number) in ((">=", 1), (">", 0))
            between = self._between(head, has.rows.table) if isinstance(has, m.Has) and any_at_all else None
            if isinstance(has, m.Has) and between is not None:
                moved = dataclasses.replace(has, rows=m.Rows(between, has.rows.where))
                condition = m.Not(moved) if isinstance(condition, m.Not) else moved
            found.append(condition)
        return tuple(found)

    def _groups(self, draft: Draft) -> list[m.Expr] | None:
        found: list[m.Expr] = []
        for i, group in draft.of(Grouped):
            expr = self.nouns.group(group.by) if isinstance(group.by, Noun) else group.by
            if expr is None:
                if isinstance(group.by, Noun) and group.by.unknown:
                    edge = draft.edges[i]
                    draft.lost.update(
                        p for p in range(edge.start, edge.end) if draft.words[p] == group.by.unknown.lower()
                    )
                    continue
                return None
            found.append(expr)
            draft.used.add(i)
        found = list(dict.fromkeys(found))
        when = [g for g in found if isinstance(g, m.PartOf) and isinstance(g.of, m.EventTime)]
        if len(when) > 1 and not _MONTHLY & set(draft.words):
            # How it developed year by year is told by the year, and not by what a development is told by elsewhere.
            found = [g for g in found if not (isinstance(g, m.PartOf) and g in when and g.unit == "month")]
        return found

    def _chart(self, draft: Draft) -> ChartWish | None:
        wish: ChartWish | None = None
        for i, chart in draft.of(Charted):
            draft.used.add(i)
            first = draft.edges[i]
            if first.start == 0 and first.end == 1 and (stem(draft.words[0]),) in self._single_names:
                # Lines of which something is so are what a column is called, and no picture.
                draft.cost("a picture that a column is called", 0.5)
            wish = chart.wish if wish is None else wish.beside(chart.wish)
        return wish

    def _holds(
        self, draft: Draft, head: str, quantities: Sequence[m.Quantity], group: m.Expr | None
    ) -> tuple[tuple[m.Condition, ...], tuple[m.Having, ...]]:
        """Bare comparisons with a number: of what was worked out for groups, else of the main measure."""
        grouped = group is not None
        where: list[m.Condition] = []
        having: list[m.Having] = []
        for i, held in draft.of(Held):
            if isinstance(held.quantity, Rated) and (planned := self._of_planned(held)) is not None:
                having.append(planned)
                draft.used.add(i)
                continue
            if isinstance(held.quantity, Worth) and (counted_by := held.quantity.of.table) is not None:
                if self.catalogue.table(counted_by).key is None:
                    # What nothing tells apart comes to what stands on its row.
                    held = dataclasses.replace(held, quantity=None)
            own = self._part_of_ratio(draft, held.quantity) if held.quantity is not None else None
            if isinstance(held.quantity, Measured) and isinstance(held.right, Function):
                # A lower rating than all have is so on average, and what customers spent is all of it.
                spent = PAYING & {*draft.words[draft.edges[i].start : draft.edges[i].end]}
                theirs = isinstance(group, m.Col) and self.nouns.is_buyer(group)
                own = own if spent and theirs else self.nouns.level(held.quantity.expr)
            if held.quantity == Worth("mean", Noun()):
                # Whose average is below 50: the average of what is told of each of them.
                figures = (self.nouns.main_measure(t) for t in (*self.nouns.children(head), head))
                figure = next((e for e in figures if e is not None and self.nouns.function(e) == "mean"), None)
                own = m.Aggregated("mean", figure) if figure is not None else None
                if own is None:
                    continue
            if (
                held.quantity == Counted(Noun())
                and isinstance(group, m.Col)
                and not self.nouns.tells_rows(group.key)
                and event_time(self.catalogue, group.key.table) is not None
            ):
                # Customers who came three times did so in what tells of them, and not in each part of it.
                own = self.nouns.counted(group.key.table)
            if own is None and isinstance(held.quantity, Rated):
                continue
            if held.judged and draft.names_trouble(i):
                held = dataclasses.replace(held, op=m.mirrored(held.op))
            if isinstance(held.right, (Counted, Worked, Part)):
                each = group or self._each_counted(quantities)
                than_another = self._held_to_another(draft, held, own, each) if each is not None else None
                if than_another is not None:
                    having.append(than_another)
                    draft.used.add(i)
                continue
            if isinstance(held.right, Measured):
                right = held.right.expr
                if isinstance(held.quantity, Worked) and self._rows_said(draft) & {*tables_of(held.quantity.quantity)}:
                    # A tenancy with more occupants than bedrooms is so in its own row.
                    draft.cost("one row added up", 1.5)
                elif own is not None and group is not None and self._are_rows_of(group, own):
                    draft.cost("one row added up", 1.5)
                # Payments that are more than the premiums are both of money.
                alike = isinstance(own, m.Aggregated) and all(
                    isinstance(e, m.Col) and self._is_money(e.key) for e in (own.expr, right)
                )
                if isinstance(own, m.Aggregated) and own.expr is not None and self._are_unlike(own.expr, right):
                    draft.cost("money held against what is none", 0.6)
                if isinstance(own, m.Aggregated) and (alike or not isinstance(held.quantity, Worth)):
                    single = group is None or self._of_row([group], right)
                    other = m.Aggregated("max", right) if single else self.nouns.aggregate(right)
                    having.append(m.Having(own, held.op, other))
                    draft.used.add(i)
                continue
            if not isinstance(held.right, float):
                own = own or (quantities[0] if grouped and quantities else None)
                each = group or self._each_counted(quantities)
                if isinstance(own, (m.Aggregated, m.Combined, m.ShareOf)) and each is not None:
                    if self._are_rows_of(each, own):
                        # Visits that cost more than average do so in their own row.
                        draft.cost("one row added up", 1.5)
                    having.append(m.over_average(own, held.op, each))
                    draft.used.add(i)
                main = self.nouns.main_measure(head) if isinstance(held.right, Function) and own is None else None
                rows = not quantities and isinstance(group, m.Col) and group == self.nouns.naming(head)
                counts = all(isinstance(q, m.Aggregated) and q.function == "count" for q in quantities)
                if main is not None and isinstance(held.right, Function) and counts and (rows or not grouped):
                    # Visits above average: each held against all of them by the main figure.
                    usual = m.Aggregated("median" if held.right.function == "median" else "mean", main)
                    where.append(m.Compared(held.op, main, usual))
                    draft.used.add(i)
                    draft.cost("main measure", 0.12)
                continue
            number = m.Number(held.right)
            counted = quantities[0] if quantities and not grouped else None
            told = own is not None and (own == self.nouns.counted(head) or held.quantity == Counted(Noun()))
            if told and isinstance(counted, m.Aggregated) and counted.table:
                # How many customers booked twelve times or more: those with so many rows below.
                below = self._happening_to(counted.table)
                said = [c for c in below if isinstance(own, m.Aggregated) and own.table == c]
                if below and float(held.right).is_integer():
                    where.append(m.Has(m.Rows((said or below)[0]), held.op, int(held.right)))
                    draft.used.add(i)
                    continue
            edge, money = draft.edges[i], draft.in_money(i)
            held_one = own if own is not None else quantities[0] if grouped and quantities else None
            counts = isinstance(held_one, m.Aggregated) and held_one.table is not None
            paid = self._money_of(head) if money else None
            if counts and paid is not None and held.or_below is None:
                # Orders over £50 are told in money, and are no more than fifty orders.
                where.append(m.Compared(held.op, paid, number))
            elif own is not None:
                having.append(self.held_at(draft, i, m.Having(own, held.op, number)))
            elif grouped and quantities and (each := self._bound_of_rows(draft, i, head, held.right)) is not None:
                where.append(m.Compared(held.op, each, number))
            elif grouped and quantities:
                having.append(self.held_at(draft, i, m.Having(quantities[0], held.op, number)))
                draft.cost("held", 0.05)
            else:
                percent = _PERCENT & set(draft.words[edge.start : edge.end + 1])
                expr = self.nouns.main_measure(head) if percent else self._bounded(head, held.right, money=money)
                if expr is None:
                    continue
                if money and paid is None:
                    draft.cost("no money", 0.4)
                beyond = m.Compared(held.op, expr, number)
                low = m.Number(held.or_below) if held.or_below is not None else None
                where.append(beyond if low is None else m.Any((m.Compared("<", expr, low), beyond)))
                rated = any(isinstance(v, Rated) for j, v in draft.items if j == i - 1)
                # Below 60% behind a rate is said of that rate, and never of money.
                shares = isinstance(expr, m.Col) and self.nouns.column(expr.key).role in (Role.PERCENTAGE, Role.SCORE)
                draft.cost("main measure", 2.0 if rated or (percent and not shares) else 0.12)
            draft.used.add(i)
        for i, every in draft.of(InEvery) if not draft.of(Top) else ():
            rows_of = every.rows.table if every.rows is not None else self._done_in_every(draft, i, every, group)
            dated = self.catalogue.table(rows_of).time_column if rows_of is not None else None
            time = m.Col(m.ColumnKey(rows_of, dated.name)) if rows_of and dated is not None else m.EventTime()
            each = m.PartOf(every.of, time) if isinstance(every.of, str) else self.nouns.group(every.of)
            rows = isinstance(group, m.Col) and group.key.table in tables_of(each) and self.nouns.tells_rows(group.key)
            if each is not None and group is not None and each != group and not rows:
                met = m.Aggregated("distinct", each)
                came = self._was_there(tables_of(each)[0]) if _BEEN & set(draft.words) and tables_of(each) else None
                if came is not None:
                    where.append(came)
                having.append(m.Having(met, "=", met, overall=True))
                draft.used.add(i)
        return tuple(where), tuple(having)

    def _bound_of_rows(self, draft: Draft, place: int, head: str, number: float) -> m.Expr | None:
        """Payments over 500 by method are so each by itself: a bound right behind the rows, before what they are told by."""
        before = draft.edges[place - 1] if place else None
        rows = before.value if before is not None and before.end == draft.edges[place].start else None
        own = isinstance(rows, Noun) and rows.table == head
        if not own or draft.of(Shared) or not any(i > place for i, _ in draft.of(Grouped)):
            return None
        expr = self._bounded(head, number, money=False)
        column = self.nouns.column(expr.key) if isinstance(expr, m.Col) else None
        if column is not None and column.low is not None and column.high is not None and column.is_measure:
            # What no single one comes to is what all of them do.
            return expr if float(column.low) <= number <= float(column.high) else None
        return expr

    def _done_in_every(self, draft: Draft, place: int, every: InEvery, group: m.Expr | None) -> str | None:
        """The rows of which there are some in every period, where the rows of the group are people or things themselves."""
        if not isinstance(every.of, str) or not isinstance(group, m.Col) or not self.nouns.tells_rows(group.key):
            return None
        below = [t for t in self._happening_to(group.key.table) if self._happens(t)]
        told = {t for _, p in draft.of(Part) for t in tables_of(p.condition)}
        edge = draft.edges[place]
        said = draft.words[edge.start : edge.end]
        about = [t for t in below if t in told] or [t for t in below if any(self.nouns.is_about(t, w) for w in said)]
        return next(iter(about or below), None)

    @staticmethod
    def held_at(draft: Draft, place: int, having: m.Having) -> m.Having:
        """Above 80 percent is above 0.8 of what is told as a share of one, or as a plain ratio."""
        told, right = having.quantity, having.right
        # The share of a sum is told of a hundred.
        share = isinstance(told, m.ShareOf) and told.expr is None
        share = share or (isinstance(told, m.Along) and told.kind in ("share", "share_within"))
        plain = share or (isinstance(told, m.Combined) and told.op == "/" and not told.percent)
        if not plain or not isinstance(right, m.Number):
            return having
        said = draft.says(place, ("%", "percent", "pct")) or "%" in draft.words[: draft.edges[place].end + 1]
        if said or (share and right.value > 1):
            return dataclasses.replace(having, right=m.Number(right.value / 100))
        return having

    def _age_of(self, table: str) -> m.Expr | None:
        """How old the rows of a table are, where these are people, or were born."""
        age = self.ages.get(table)
        born = age is not None and any(is_birth(self.nouns.vocabulary, k) for k in m.columns_in(age))
        # How long somebody has been registered is nobody's age.
        return age if born or (isinstance(age, m.Col) and self.nouns.is_of_people(table)) else None

    def _money_of(self, table: str) -> m.Col | None:
        """The first amount of money on a table's own rows."""
        columns = self.catalogue.table(table).columns
        money = next((c for c in columns if c.is_measure and c.role is Role.MONEY), None)
        costs = money is not None and bool(PAID_FOR_THEM & {*name_parts(money.name)})
        if money is None or costs:
            # Of things with a price the price is what is under three pounds, and not what all of them are worth.
            priced = [c for c in columns if c.is_measure and {stem("price"), "rrp"} & {*name_parts(c.name)}]
            sold = (c for c in priced if not PAID_FOR_THEM & {*name_parts(c.name)})
            money = next(sold, next(iter(priced), money))
        return m.Col(m.ColumnKey(table, money.name)) if money is not None else None

    def _each_counted(self, quantities: Sequence[m.Quantity]) -> m.Expr | None:
        """What a count counts each of: the key of the rows, or the column of different values."""
        counted = quantities[0] if len(quantities) == 1 else None
        if not isinstance(counted, m.Aggregated) or counted.where:
            return None
        if counted.table is not None:
            own = self.catalogue.table(counted.table).key
            return m.Col(m.ColumnKey(counted.table, own.name)) if own is not None else None
        return counted.expr if counted.function == "distinct" else None

    def _held_to_another(self, draft: Draft, held: Held, own: m.Quantity | None, each: m.Expr) -> m.Having | None:
        """More dogs than cats of each, or more of something than one of them that is named has."""
        if isinstance(held.quantity, Measured):
            own = self.nouns.aggregate(held.quantity.expr)
        if own is None:
            return None
        match held.right:
            case Part(condition=m.Is(column=column) as one) if self._is_one_of(each, column):
                # More visits than Harrow Street is so of a clinic, and more dogs than cats of what is counted.
                if not isinstance(own, (m.Aggregated, m.ShareOf, m.Combined)):
                    return None
                return m.Having(own, held.op, m.under(own, one), overall=True)
            case other:
                if isinstance(other, Part) and not isinstance(held.quantity, Part):
                    draft.cost("a kind held as a number", 0.2)
                right = self._part_of_ratio(draft, other)
                return m.Having(own, held.op, right) if right is not None and right != own else None

    def _of_planned(self, held: Held) -> m.Having | None:
        """Less than half of their budget: what came of a plan as so much of it."""
        expr = held.quantity.expr if isinstance(held.quantity, Rated) else None
        if not isinstance(expr, m.Col) or not PLANNED & set(self.nouns.vocabulary.columns[expr.key].parts):
            return None
        beside = self.nouns.came_of(expr)
        came = self.nouns.aggregate(beside) if beside is not None else self.nouns.came_below(expr)
        if came is None or not isinstance(held.right, float):
            return None
        planned = m.Aggregated("sum" if beside is not None else "max", expr)
        return m.Having(m.Combined("/", came, planned, percent=True), held.op, m.Number(held.right))

    def order(
        self, draft: Draft, quantities: Sequence[m.Quantity], shows: Sequence[m.Expr], head: str
    ) -> tuple[m.Order, ...]:
        found: list[m.Order] = []
        for i, order in draft.of(Sorted):
            by: m.Quantity | m.Expr | None = None
            match order.by:
                case Measured(expr=expr):
                    by = next((q for q in quantities if isinstance(q, m.Aggregated) and q.expr == expr), None) or expr
                case Worked(quantity=quantity):
                    by = quantity
                case Counted():
                    by = self.count(draft, order.by)
                case Noun():
                    by = self.nouns.group(order.by)
                case None:
                    by = self.nouns.naming(head)
            if by is None:
                continue
            descending = order.descending
            if descending is None:
                descending = not isinstance(by, (m.Col, m.PartOf)) or (
                    isinstance(by, m.Col) and self.nouns.column(by.key).is_measure and bool(quantities)
                )
            found.append(m.Order(by, descending))
            draft.used.add(i)
        for i, direction in draft.of(Direction):
            draft.used.add(i)
            figure = told_last(quantities)
            if found and figure is not None and self._comes_before_sorted(draft, i):
                # Most first, then by name.
                found.insert(0, m.Order(figure, direction.descending))
                continue
            if found:
                # Of several keys it is the last one's, behind which it stands.
                found[-1] = m.Order(found[-1].by, direction.descending)
                continue
            target: m.Quantity | m.Expr | None = figure
            since = None if quantities else self._since_said(draft, head)
            if since is not None and draft.says(i, ("longest", "oldest", "newest", "latest")):
                # Who has been with us since before 2014, longest first: the earliest of these days.
                found.append(m.Order(since, draft.says(i, ("newest", "latest"))))
                continue
            change = _change_among(quantities)
            growing = ("growth", "change", "increase", "rise", "fall", "drop", "decrease")
            ranked = any(b.kind == "rank" for _, b in draft.of(Beside)) and {*growing} & set(draft.words)
            if change is not None and (ranked or draft.says(i, growing)):
                target = change
            if isinstance(target, m.Along) and target.kind == "rank":
                # The first in rank comes first by what it is ranked by.
                target = target.quantity
            if quantities and direction.by is not None and self._is_when(direction.by):
                # Income by month, newest first: its months are, and not the highest income.
                found.append(m.Order(m.EventTime(), direction.descending))
                continue
            if direction.by is not None and not quantities:
                if tables_of(direction.by) != [head]:
                    draft.cost("sorted from elsewhere", 0.4)
                if all(self.catalogue.path(head, t) is not None for t in tables_of(direction.by)):
                    found.append(m.Order(direction.by, direction.descending))
                    continue
            if target is None:
                numbers = [s for s in shows if not isinstance(s, m.Col) or self.nouns.column(s.key).is_measure]
                target = numbers[0] if numbers else self.nouns.main_measure(head)
            if target is not None:
                found.append(m.Order(target, direction.descending))
        return tuple(found)

    def _comes_before_sorted(self, draft: Draft, place: int) -> bool:
        """True for a way that is said before what decides among equals."""
        end = draft.edges[place].end
        later = [draft.edges[j] for j, _ in draft.of(Sorted) if draft.edges[j].start >= end]
        return any(_THEN & set(draft.words[end : edge.end]) for edge in later)

    def _is_when(self, by: m.Expr) -> bool:
        """True for a day or a time, by which things are new or old."""
        return isinstance(by, m.EventTime) or (isinstance(by, m.Col) and self.nouns.column(by.key).type.is_time)

    def _since_said(self, draft: Draft, head: str) -> m.Col | None:
        """The date of some rows that a condition is on, and that tells since when they are there."""
        said = [t for _, p in draft.of(Part) for t in m.times_in(p.condition) if isinstance(t, m.Col)]
        return next((t for t in said if t.key.table == head and is_since(t.key.column)), None)

    # --- numbers

    def _numbers(self, draft: Draft, kinds: set[type]) -> m.Ask | None:
        if Top in kinds:
            return None
        groups = self._groups(draft)
        if groups is None:
            return None
        quantities = self._quantities(draft)
        groups = self._across(draft, groups, quantities)
        with_shares = self._shares(draft, groups, quantities)
        if with_shares is None:
            return None
        quantities, skip = with_shares
        besides = draft.of(Beside)
        versus_said = bool(draft.of(Versus))
        if not groups and quantities and any(v.kind == "compared" for _, v in draft.of(Marker)):
            # The fee of this year compared for dogs and cats is told of each.
            kinds_named = [p.condition for _, p in draft.of(Part)]
            named_of = [c.column for c in kinds_named if isinstance(c, m.Is) for _ in c.values]
            several = [m.Col(c) for c in dict.fromkeys(named_of) if named_of.count(c) > 1]
            groups = [*several[:1]]
        if Moved in kinds and not groups:
            # Districts where sales fell: each of them is looked at.
            named_things = [(i, n) for i, n in draft.of(Noun) if n.table is not None or n.key is not None]
            thing = self.nouns.group(named_things[0][1]) if named_things else None
            if thing is not None:
                groups = [thing]
                draft.used.add(named_things[0][0])
        if Moved in kinds and not quantities:
            quantities = [q for _, v in draft.of(Moved) if (q := self._moving(draft, v)) is not None]
        told = any(p.kind in ("state", "flag", "gap") for _, p in draft.of(Part))
        shared_with = [b.kind for _, b in besides]
        of_each = shared_with == ["share_within"] and len(groups) == 1
        if not versus_said and (((told or not groups) and shared_with == ["share"]) or of_each):
            shared = self._share_of_such(draft, quantities)
            if shared is not None:
                # Late trains by station in percent: of the trains of each.
                draft.used.add(besides[0][0])
                quantities, besides = [shared], []
                skip = [*skip, *shared.condition]
        drawn = [i for i, c in draft.of(Charted) if c.wish.kind in ("any", "line", "area")]
        spans = [p.condition for _, p in draft.of(Part) if isinstance(p.condition, m.Within)]
        if (
            drawn
            and quantities
            and not groups
            and not versus_said
            and (
                [unit_of(Span(s.low, s.high)) for s in spans] == [None]
                or (not spans and any(c.wish.kind in ("line", "area") for _, c in draft.of(Charted)))
            )
        ):
            # A plot of what there was from 2016 to 2025 is a line, and a line is one of all that there was.
            groups = [m.PartOf(self.nouns.grain(self._head(draft, quantities)), m.EventTime())]
        if not quantities and not groups and not besides and versus_said:
            # Who does better is told by the marks, and not by how many there are of each.
            head = self._head(draft, *(self._held_kinds(draft) if not _FARING & set(draft.words) else ()))
            named = [i for i, _ in self._tables_named(draft)]
            named += [i for i, n in draft.of(Noun) if n.key is not None and self.nouns.tells_rows(n.key)]
            draft.used.update(named)
            quantities = [self.nouns.counted(head)]
            expr = self.nouns.main_measure(head)
            if expr is not None and self.nouns.vocabulary.is_told_again(head):
                # What grew, of what is told again each month, is its figure.
                quantities = [self.nouns.aggregate(expr)]
            elif expr is not None and self.nouns.function(expr) == "mean" and _FARING & set(draft.words):
                # Who does better has the better marks, however many they are.
                quantities = [self.nouns.aggregate(expr)]
            elif expr is not None and not named:
                quantities.append(self.nouns.aggregate(expr))
            draft.cost("silent count", 0.2)
        numbered = [
            t
            for _, p in draft.of(Part)
            if p.kind == "value"
            for t in tables_of(p.condition)
            if t in self.nouns.vocabulary.weights
        ]
        if not quantities and not groups and not besides and numbered and "list" not in draft.asks():
            # Under 16s in Leeds: of a table that only tells numbers, how many.
            quantities = [self.nouns.counted(numbered[0])]
            draft.cost("silent count", 0.1)
        pie = next((i for i, c in draft.of(Charted) if c.wish.kind in ("pie", "bar")), None)
        values = [
            p.condition for _, p in draft.of(Part) if isinstance(p.condition, m.Is) and len(p.condition.values) > 1
        ]
        if pie is not None and not quantities and not groups and len(values) == 1:
            # A pie of the regular and the one-off gifts has a slice for each.
            groups = [m.Col(values[0].column)]
        if not quantities and groups and not besides and not versus_said:
            # Weeks in which so much was taken in all are shown with what that was.
            held = [h.quantity.quantity for _, h in draft.of(Held) if isinstance(h.quantity, Worked)]
            # Days on which more was wasted than was sold are shown with both.
            two = [p for _, h in draft.of(Held) if isinstance(h.right, Measured) for p in (h.quantity, h.right)]
            held += [q for p in two if not isinstance(p, Worked) and (q := self._part_of_ratio(draft, p)) is not None]
            quantities = [] if self._tables_named(draft) and not draft.settled else held
            if quantities and not draft.settled:
                draft.cost("silent count", 0.2)
        if not quantities and groups and not besides and not versus_said:
            groups = self._kinds_by(draft, groups)
        if not quantities and (groups or besides):
            said = [p.condition for _, p in draft.of(Part) if p.kind in ("value", "state", "flag", "number")]
            head = self._head(draft, groups, *said) if groups else self._head(draft, groups)
            named = [i for i, t in self._tables_named(draft)]
            dated = [n.key.table for _, n in draft.of(Noun) if n.key in self.nouns.dates and n.key]
            if dated and not named:
                # "Joiners per month" counts those who have the date.
                head = dated[0]
            sides = [c for _, v in draft.of(Versus) for c in (v.one, v.two) if c is not None]
            told_when = [t for c in (*(p.condition for _, p in draft.of(Part)), *sides) for t in m.times_in(c)]
            begun = [t.key.table for t in told_when if isinstance(t, m.Col)]
            so_many = [h.rows.table for _, p in draft.of(Part) for h in m.parts(p.condition) if isinstance(h, m.Has)]
            if so_many and not named and not dated and all(isinstance(g, m.PartOf) for g in groups):
                # Months with more than twelve claims are shown with how many claims they had.
                head = so_many[0]
            if begun and not named and not dated:
                # Tenancies started in 2025 are told by their own date, and they are counted.
                reached = all(self.catalogue.path(begun[0], t) is not None for t in tables_of((*groups, *said)))
                head = begun[0] if reached else head
            states = [p.condition for _, p in draft.of(Part) if p.kind == "state"]
            of_state = set(tables_of(states))
            if len(of_state) == 1 and not (named or dated or begun or so_many):
                # Draws by referee are the matches that were drawn, and no goals in them.
                (stated,) = of_state
                reached = all(self.catalogue.path(stated, t) is not None for t in tables_of((*groups, *said)))
                head = stated if reached else head
            draft.used.update(named)
            if not named:
                self._use_unknown(draft)
            who = self._who_is_counted(draft, groups) if not named and not dated else None
            if named:
                quantities = [self.nouns.counted(t) for t in self._counted_side_by_side(draft)]
            elif who is not None:
                # Customers per month are as many as came in it, however often each did.
                quantities = [m.Aggregated("distinct", m.Col(who[1]))]
                draft.used.add(who[0])
            else:
                quantities = [self._of_such(head, said if groups else ())]
            if any(isinstance(g, m.Band) and quantities == [m.Aggregated("sum", g.of)] for g in groups):
                # How births are spread is told by how many rows have so many, and not by their births.
                quantities = [m.Aggregated("count", table=head)]
            usual = self.nouns.facts[0]
            own = [k.table for k in m.columns_in((groups, said)) if self.nouns.column(k).role is not Role.LINK]
            if (
                not named
                and head != usual
                and {head} != of_state
                and all(self.catalogue.path(usual, t) is not None for t in own)
            ):
                # Where nothing says what is counted, it is what the workspace is mostly about.
                draft.cost("a silent count of lesser rows", 0.12)
            draft.cost("silent count", 0.1 if named else 0.25)
        if not quantities:
            return None
        where = self._conditions(draft, skip)
        if not versus_said and not besides and not draft.of(Shared):
            where, groups = self._of_each(where, groups)
        silent = draft.features.get("silent count") is not None
        totals: tuple[m.Having, ...] = ()
        named_rows = {t for _, t in self._tables_named(draft)}
        own_rows = any(isinstance(c, m.Compared) and set(tables_of(c.left)) <= named_rows != set() for c in where)
        if silent and groups and not besides and not versus_said and not own_rows:
            where, totals = self._kept_by_totals(draft, where, groups)
            if totals:
                quantities = [q for h in totals for q in (h.quantity, h.right) if isinstance(q, m.QUANTITIES)]
                draft.features.pop("silent count")
        versus = draft.of(Versus)
        head = self._head(draft, quantities, groups)
        if versus:
            quantities, groups, extra = self.versus(draft, versus, quantities, groups)
            # "Year to date against last year to date" says one of its times twice.
            where = (*(c for c in where if c not in (versus[0][1].one, versus[0][1].two)), *extra)
        elif any(v == "more" for _, v in draft.items):
            return None
        for i, value in draft.items:
            if value == "more":
                draft.used.add(i)
        groups_said = bool(groups)
        groups = [self._of_its_own_time(g, head) for g in groups]
        groups = self._without_rows(draft, groups, quantities)
        groups = self._noun_groups(draft, groups, quantities, kinds)
        quantities = self._gaps(draft, quantities)
        quantities, moved = self._moved(draft, quantities, groups)
        quantities, stepped = self._stepped(draft, quantities, groups)
        more, having = self._holds(draft, head, quantities, groups[-1] if groups else None)
        if not groups and any(isinstance(h.right, Measured) for _, h in draft.of(Held)):
            # Who raised more tickets than they have seats is asked of each of them.
            draft.cost("things held as one", 0.7)
        having = (*having, *moved, *stepped, *totals)
        where = (*where, *more)
        counted = next((q.table for q in quantities if isinstance(q, m.Aggregated) and q.table), None)
        where = self._nearer(counted or head, where)
        where, having2 = self.counts_of_groups(where, groups, quantities)
        quantities = self._beside(draft, besides, quantities, groups)
        each = [q.each for q in quantities if isinstance(q, m.OverGroups)]
        if each and len(quantities) == 1:
            # How many claims each customer has on average is one number.
            groups = [g for g in groups if g not in each]
        where, none = _none_in_periods(where, groups)
        if none is not None:
            quantities, having2 = [none.quantity], (*having2, none)
        periods = self._count_of_periods(draft, quantities, groups, (*having, *having2))
        if periods is not None:
            quantities, groups, having, having2 = [periods], [], (), ()
        if not groups:
            counting = self._count_of_groups(draft, quantities, where, (*having, *having2))
            if counting is not None:
                where, having, having2 = counting, (), ()
        if Asking in kinds and "list" in draft.asks() and not draft.of(Grouped):
            bare = any(isinstance(v, (Measured, Joined)) for _, v in draft.items) and not kinds & {Worked, Function}
            if self._tables_named(draft) or bare:
                draft.cost("a list was asked for", 0.5)
        which = next((i for i, a in draft.of(Asking) if a.what == "which" and draft.says(i, ("which",))), None)
        if not groups and any(i - 1 == which and not n.unknown for i, n in draft.of(Noun)):
            # "Which courses have places left" asks for courses, and for no number.
            draft.cost("which ones as a number", 0.4)
        shown_alone: tuple[m.Is, ...] = ()
        if any(b.kind == "rank" for _, b in besides) and not groups_said:
            where, shown_alone = self._among_all(draft, where, groups)
        order = self.order(draft, quantities, (), head)
        if order and not groups:
            draft.cost("one number sorted", 0.6)
        if not groups and "who" in draft.asks():
            draft.cost("who as a number", 0.5)
        where, groups = self._time_named(draft, where, groups)
        rows = [g for g in groups if isinstance(g, m.Col) and self.nouns.tells_rows(g.key)]
        if any(isinstance(g, m.Col) and g not in rows and g.key.table == r.key.table for g in groups for r in rows):
            # Of each thing and of each kind of it: a number for each thing is meant, by kind.
            draft.cost("things within their kinds", 0.7 if "per" in draft.words else 0.35)
        elif "per" in draft.words and any(self._tells_one_of(g, kind) for g in groups for kind in groups):
            # Days lost per pupil, by form.
            draft.cost("things within their kinds", 0.6)
        return m.Ask(
            head,
            where=where,
            quantities=tuple(quantities),
            groups=tuple(groups),
            having=(*having, *having2),
            order=order,
            kept=shown_alone,
            chart=self._chart(draft),
        )

    def _kinds_by(self, draft: Draft, groups: list[m.Expr]) -> list[m.Expr]:
        """Outcome by district: kinds that are named before what they are split by are groups too."""
        split = min((i for i, _ in draft.of(Grouped)), default=0)
        listed = [i + 1 for i, a in draft.of(Asking) if a.what == "list"]
        nouns = [(i, n) for i, n in draft.of(Noun) if (i < split or i in listed) and i not in draft.used]
        if len(nouns) != 1 or {"which", "who", "where"} & {*draft.asks()} or self._tables_named(draft):
            return groups
        place, noun = nouns[0]
        if noun.key is None or m.Col(noun.key) in groups or not self._are_kinds(noun):
            return groups
        draft.used.add(place)
        return [m.Col(noun.key), *groups]

    def _among_all(
        self, draft: Draft, where: tuple[m.Condition, ...], groups: list[m.Expr]
    ) -> tuple[tuple[m.Condition, ...], tuple[m.Is, ...]]:
        """Where one stands in the ranking of all: all are worked, and that one is shown."""
        one = next((c for c in where if isinstance(c, m.Is) and len(c.values) == 1), None)
        if one is None or draft.of(Versus) or self.nouns.column(one.column).type is not Type.TEXT:
            return where, ()
        groups[:] = [m.Col(one.column)]
        if draft.features.pop("share of one", None) is None:
            draft.cost("among all", 0.05)
        return tuple(c for c in where if c is not one), (one,)

    def _gaps(self, draft: Draft, quantities: list[m.Quantity]) -> list[m.Quantity]:
        """The gap between the two that were named: what was due less what was paid, a budget less what was spent."""
        for i, marker in draft.of(Marker):
            if marker.kind == "gap" and len(quantities) == 2 and not draft.of(Versus):
                one, two = quantities
                keys = m.columns_in(two)
                planned = any(PLANNED & set(self.nouns.vocabulary.columns[k].parts) for k in keys)
                draft.used.add(i)
                return [one, two, m.Combined("-", two, one) if planned else m.Combined("-", one, two)]
        return quantities

    def _of_its_own_time(self, group: m.Expr, head: str) -> m.Expr:
        """By year, of rows that have a date, is by the year of that, and not by what another table calls so."""
        if not isinstance(group, m.Col) or group.key.table == head or event_time(self.catalogue, head) is None:
            return group
        unit = next(
            (u for u in ("year", "quarter", "month", "week", "day") if name_parts(group.key.column) == [u]), None
        )
        if unit is None or self.catalogue.path(head, group.key.table) is not None:
            return group
        return m.PartOf(unit, m.EventTime())  # type: ignore[arg-type]

    def _of_each(
        self, where: tuple[m.Condition, ...], groups: list[m.Expr]
    ) -> tuple[tuple[m.Condition, ...], list[m.Expr]]:
        """The average rating of hot and cold cereals, where there are no others, is asked of each."""
        for condition in where:
            if isinstance(condition, m.Is) and len(condition.values) > 1:
                each = m.Col(condition.column)
                if len(set(condition.values)) >= self.nouns.column(condition.column).distinct and each not in groups:
                    return tuple(c for c in where if c is not condition), [*groups, each]
        return where, groups

    def _across(self, draft: Draft, groups: list[m.Expr], quantities: Sequence[m.Quantity]) -> list[m.Expr]:
        """The total cost across the visits is of all of them: what is worked on their own rows has no group in them."""
        own = {*tables_of(tuple(quantities))}
        for i, group in draft.of(Grouped):
            rows = group.by.table if isinstance(group.by, Noun) else None
            whole = not {"each", "every"} & {*draft.words[draft.edges[i].start : draft.edges[i].end]}
            if rows is not None and own == {rows} and whole and draft.says(i, ("across", "over")):
                naming = self.nouns.group(Noun(table=rows))
                groups = [g for g in groups if g != naming]
            key = group.by.key if isinstance(group.by, Noun) else None
            averaged = all(isinstance(q, m.Aggregated) and q.function in ("mean", "median") for q in quantities)
            panel = key is not None and own == {key.table} and self.nouns.vocabulary.is_told_again(key.table)
            if key is not None and panel and averaged and quantities and draft.says(i, ("across",)):
                # The average across the countries, in one year, is of all of them.
                groups = [g for g in groups if g != m.Col(key)]
        return groups

    @staticmethod
    def _stepped(
        draft: Draft, quantities: list[m.Quantity], groups: Sequence[m.Expr]
    ) -> tuple[list[m.Quantity], tuple[m.Having, ...]]:
        """Months in which income fell: its change on the month before is shown, and is below nought."""
        periods = [g for g in groups if isinstance(g, m.PartOf)]
        for i, step in draft.of(Stepped):
            edge = draft.edges[i]
            most = _SO_OFTEN & {*draft.words[edge.start : edge.end + 1]}
            if most or len(quantities) != 1 or len(periods) != 1 or isinstance(quantities[0], (m.Along, m.Between)):
                # Where it rose most is one of them.
                continue
            change = m.Along(quantities[0], "change" if step.percent is None else "change_percent")
            bound = (step.percent or 0.0) / 100
            op, number = (step.op, bound) if step.up else (m.mirrored(step.op), -bound)
            draft.used.add(i)
            return [change], (m.Having(change, op, m.Number(number)),)
        return quantities, ()

    def _count_of_periods(
        self, draft: Draft, quantities: Sequence[m.Quantity], groups: Sequence[m.Expr], having: Sequence[m.Having]
    ) -> m.OverGroups | None:
        """In how many months more than so much was sold: months are worked out, held against it, and counted."""
        marked = next((i for i, v in draft.of(Marker) if v.kind == "counted"), None)
        if marked is None or len(groups) != 1 or not isinstance(groups[0], m.PartOf):
            return None
        worked = list(dict.fromkeys(h.quantity for h in having)) or list(quantities)
        held = [(h.op, h.right.value) for h in having if isinstance(h.right, m.Number)]
        change: Literal["", "change", "change_percent"] = ""
        match worked:
            case [m.Along(quantity=inner, kind="change" | "change_percent" as kind)]:
                worked, change = [inner], kind
            case _:
                pass
        if len(worked) != 1 or not isinstance(worked[0], m.Aggregated) or len(held) < len(having):
            return None
        draft.used.add(marked)
        if not held:
            draft.cost("periods that have any", 0.3)
        return m.OverGroups("count", worked[0], groups[0], held=tuple(held), change=change)

    def _count_of_groups(
        self, draft: Draft, quantities: Sequence[m.Quantity], where: Sequence[m.Condition], having: tuple[m.Having, ...]
    ) -> tuple[m.Condition, ...] | None:
        """How many customers spent over a thousand: those are found by what they spent in all, and then counted."""
        counted = quantities[0] if len(quantities) == 1 else None
        if not isinstance(counted, m.Aggregated) or counted.function not in ("count", "distinct") or counted.where:
            return None
        each = self._each_counted(quantities) if counted.table is not None else counted.expr
        key = each.key if isinstance(each, m.Col) else None
        if counted.table is not None:
            below = [c for c in where if self._is_below(counted.table, c)]
        else:
            below = list(where) if key is not None and not self.nouns.tells_rows(key) else []
        if key is None:
            return None
        numbers = [c for c in where if isinstance(c, m.Has) and c.rows.table in self.nouns.vocabulary.weights]
        kept, totals = self._kept_by_totals(draft, [c for c in below if c not in numbers], (m.Col(key),))
        totals += tuple(
            m.Having(
                dataclasses.replace(self.nouns.counted(c.rows.table), where=c.rows.where), c.op, m.Number(c.number)
            )
            for c in numbers
        )
        held = (*having, *totals)
        if not held:
            return None
        asked = tuple(dict.fromkeys(h.quantity for h in held))
        head = self._meeting([key.table, *tables_of(asked), *m.counted_in(asked)])
        if head is None:
            return None
        times = tuple(c for c in where if any(isinstance(p, m.EventTime) for p in m.parts(c)) and c not in kept)
        inner = m.Ask(head, (*kept, *times), asked, (m.Col(key),), having=held)
        rest = (c for c in where if c not in below and c not in numbers and c not in times)
        return (*rest, m.Among(key, self._of_latest(inner)))

    def _those_counted(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """In how many districts births fell: those are found by what became of each, and counted."""
        group = ask.groups[0] if len(ask.groups) == 1 else None
        moved = any(isinstance(h.quantity, m.Between) for h in ask.having)
        if not moved or not isinstance(group, m.Col) or ask.limit is not None or ask.per:
            return ask
        itself = group.key.table in m.counted_in(ask.having) and self.nouns.tells_rows(group.key)
        for _, counted in draft.of(Counted) if not itself else ():
            if counted.noun == Noun() or self.nouns.group(counted.noun) == group:
                number = self.catalogue.table(group.key.table).key
                own = number is not None and self.nouns.naming(group.key.table) == group
                # Two vets of one name are two.
                each = m.Col(m.ColumnKey(group.key.table, number.name)) if own and number is not None else group
                found = ask.but(groups=(each,), shows=(), order=(), chart=None)
                count = self.nouns.counted(each.key.table) if own else m.Aggregated("distinct", each)
                return m.Ask(each.key.table, (m.Among(each.key, found),), (count,), chart=ask.chart)
        return ask

    def _of_one_row(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Players with cup matches that were won have rows that are both, where such rows are named once."""
        related = [c for c in ask.where if isinstance(c, m.Has) and (c.op, c.number) == (">=", 1)]
        table = related[0].rows.table if related else ask.head
        said = set(self.nouns.vocabulary.tables[table].parts)
        if table == ask.head or sum(stem(w) in said for w in draft.words) > 1:
            return ask
        alike = [c for c in related if c.rows.table == table]
        beside = [
            c for c in ask.where if isinstance(c, (m.Is, m.Compared, m.Within, m.PartIs)) and {*tables_of(c)} == {table}
        ]
        inner = tuple(dict.fromkeys((*(i for c in alike for i in c.rows.where), *beside)))
        columns = [k for c in inner for k in m.columns_in(c)]
        told = [*columns, *(t for c in inner for t in m.times_in(c) if isinstance(t, m.EventTime))]
        if len(alike) + len(beside) < 2 or len(set(told)) < len(told):
            # Owners of dogs and of cats have rows of each kind, and those of two years rows of each year.
            return ask
        rest = tuple(c for c in ask.where if c not in alike and c not in beside)
        return ask.but(where=(*rest, m.Has(m.Rows(table, inner))))

    def _of_such(self, table: str, said: Sequence[m.Condition]) -> m.Aggregated:
        """Agency fees per vacancy, of a table of costs, are what these come to; elsewhere how many there are."""
        expr = self.nouns.main_measure(table)
        such = any(isinstance(c, m.Is) for c in said)
        if expr is not None and self.nouns.is_of_money(table) and such:
            return self.nouns.aggregate(expr)
        figure = self.nouns.vocabulary.figures_alone.get(table)
        if figure is not None and such:
            return self.nouns.aggregate(m.Col(figure))
        return self.nouns.counted(table)

    def _kept_by_totals(
        self, draft: Draft, where: Sequence[m.Condition], groups: Sequence[m.Expr]
    ) -> tuple[tuple[m.Condition, ...], tuple[m.Having, ...]]:
        """Months with sales over 5,000: a number that is added up is held against the total of each group."""
        # What was ever so was so of one row.
        ever = "ever" in draft.words
        single = {p.condition for i, p in draft.of(Part) if ever or draft.says(i, _SINGLE)}
        # An above average wait of a clinic is no single one.
        one = {p.condition for i, p in draft.of(Part) if ever or draft.says(i, _SINGLE - {"a", "an"})}
        kept: list[m.Condition] = []
        having: list[m.Having] = []
        for condition in where:
            if not isinstance(condition, m.Compared) or self._of_row(groups, condition.left):
                kept.append(condition)
            elif groups and condition.right == m.Aggregated("mean", condition.left) and condition not in one:
                quantity = self.nouns.level(condition.left)
                having.append(m.over_average(quantity, condition.op, groups[-1]))
            elif (
                isinstance(condition.right, m.Number)
                and condition not in single
                and not self._bounds_one_row(draft, condition, groups)
                and not isinstance(condition.left, (m.EventTime, m.Length))
                and self.nouns.function(condition.left) == "sum"
            ):
                having.append(m.Having(self.nouns.aggregate(condition.left), condition.op, condition.right))
            elif groups and self._are_of_two_tables(condition.left, condition.right):
                assert isinstance(condition.left, m.Col) and isinstance(condition.right, m.Col)
                # Tools that earned more than they cost: what stands below is added up.
                having.append(self._added_up(condition.left, condition.op, condition.right, groups))
            else:
                kept.append(condition)
        return tuple(kept), tuple(having)

    def _bounds_one_row(self, draft: Draft, condition: m.Compared, groups: Sequence[m.Expr]) -> bool:
        """Fees over 50 by clinic are single fees, where what all of a clinic come to is far beyond that.

        Clinics with fees over 50, and fees by clinic over 50, are told of the clinics.
        """
        said = [i for i, p in draft.of(Part) if p.condition == condition]
        told_by = [i for i, _ in draft.of(Grouped)]
        if not said or not told_by or min(told_by) < said[0] or not isinstance(condition.right, m.Number):
            return False
        return self._is_of_one_row(condition.left, condition.right.value, groups)

    def _is_of_one_row(self, expr: m.Expr | None, bound: float, groups: Sequence[m.Expr]) -> bool:
        """True for a number that single rows reach and that the total of any group is far beyond."""
        if not isinstance(expr, m.Col):
            return False
        column = self.nouns.column(expr.key)
        if column.low is None or column.high is None or column.median is None or not column.type.is_number:
            return False
        kinds = [self.nouns.column(g.key).distinct if isinstance(g, m.Col) else _PERIODS for g in groups]
        each = column.median * self.catalogue.table(expr.key.table).rows / max(math.prod(kinds), 1)
        return float(column.low) < bound < float(column.high) and bound < _FAR_BELOW * each

    @staticmethod
    def _are_of_two_tables(left: m.Expr, right: object) -> bool:
        return isinstance(left, m.Col) and isinstance(right, m.Col) and left.key.table != right.key.table

    def _added_up(self, left: m.Col, op: m.Comparison, right: m.Col, groups: Sequence[m.Expr]) -> m.Having:
        """Two columns held against each other of each group: what stands on the one row that it is, or their sums."""
        sides = [
            m.Aggregated("max", side) if self._of_row(groups, side) else self.nouns.aggregate(side)
            for side in (left, right)
        ]
        return m.Having(sides[0], op, sides[1])

    def _of_row(self, groups: Sequence[m.Expr], expr: m.Expr) -> bool:
        """True where each group is one row of the table that an expression is of."""
        keys = [g.key for g in groups if isinstance(g, m.Col)]
        return any(self.nouns.tells_rows(k) and k.table in tables_of(expr) for k in keys)

    def _things(
        self, draft: Draft, group: m.Expr, where: Sequence[m.Condition], having: Sequence[m.Having]
    ) -> m.Ask | None:
        """Things kept by what is worked out for each of them, shown with it."""
        held = [h.quantity for h in having]
        held += [h.right for h in having if isinstance(h.right, m.QUANTITIES) and not h.overall]
        quantities: tuple[m.Quantity, ...] = tuple(dict.fromkeys(held))
        head = self._meeting([*tables_of(group), *tables_of(quantities), *m.counted_in(quantities)])
        if head is None:
            return None
        kept, counted = self.counts_of_groups(where, [group], quantities)
        quantities = (*quantities, *(h.quantity for h in counted))
        order = self.order(draft, quantities, (), head)
        return m.Ask(
            head, kept, quantities, (group,), having=(*having, *counted), order=order, chart=self._chart(draft)
        )

    def _meeting(self, tables: list[str]) -> str | None:
        """The lowest of some tables, or the first where all others lead to it: crimes and schools meet in districts."""
        first, *others = dict.fromkeys(tables)
        lowest = lowest_table([first, *others], self.catalogue)
        return lowest or (first if all(self.catalogue.path(t, first) for t in others) else None)

    def _without_rows(self, draft: Draft, groups: list[m.Expr], quantities: Sequence[m.Quantity]) -> list[m.Expr]:
        """An average, median or most "per visit" is of the visits: each of them is no group."""
        spread = all(
            isinstance(q, m.Aggregated)
            and q.function in ("mean", "median", "percentile", "deviation", "max", "min")
            and q.expr is not None
            for q in quantities
        )
        # The last visit of each animal stands on none of its visits.
        split = any(isinstance(q, m.Aggregated) and isinstance(q.expr, m.Below) for q in quantities)
        if not spread or not groups or not quantities or split:
            return groups
        by = {
            self.nouns.group(g.by) if isinstance(g.by, Noun) else g.by
            for i, g in draft.of(Grouped)
            if draft.says(i, ("by",))
        }
        tables = {t for q in quantities for t in tables_of(q)}
        rows = [
            g
            for g in groups
            if isinstance(g, m.Col) and self.nouns.tells_rows(g.key) and tables == {g.key.table} and g not in by
        ]
        if rows:
            draft.cost("each row", 0.05)
        return [g for g in groups if g not in rows]

    def _moving(self, draft: Draft, moved: Moved) -> m.Quantity | None:
        """What is said to have risen or fallen: a measure added up, or how many rows there were."""
        match moved.measured:
            case Counted() as counted:
                return self.count(draft, counted)
            case Measured(expr=expr):
                return self.nouns.aggregate(expr)
            case None:
                return None

    def _moved(
        self, draft: Draft, quantities: list[m.Quantity], groups: list[m.Expr]
    ) -> tuple[list[m.Quantity], tuple[m.Having, ...]]:
        """Only the groups whose measure rose, or fell; of several, each by its own."""
        having: list[m.Having] = []
        moves, asked = draft.of(Moved), list(quantities)
        several = len(moves) > 1 and len(asked) == len(moves)
        found: list[m.Quantity] = []
        for place, (i, moved) in enumerate(moves):
            pairs = [(i, moved.versus)] if moved.versus is not None else draft.of(Versus)
            if not groups or not pairs:
                continue
            far = moved.percent or 0.0
            bound = m.Number(far if moved.up or not far else -far)
            known = _change_among(quantities) if moved.measured is None and moved.versus is None else None
            if known is not None:
                # Growth by route, only those that grew: what it is told by is there already.
                having.append(m.Having(known, ">" if moved.up else "<", bound))
                draft.used.add(i)
                continue
            told = asked[place : place + 1] if several else asked[:1]
            of = self._moving(draft, moved)
            told = [of] if of is not None else told
            made, _, _ = self.versus(draft, pairs[:1], told, groups)
            change = _change_among(made)
            if change is None:
                continue
            # From none to some is more, though in per cent it is nothing.
            absolute = dataclasses.replace(change, absolute=moved.percent is None)
            found = [*(found if several else []), *(absolute if q == change else q for q in made)]
            having.append(m.Having(absolute, ">" if moved.up else "<", bound))
            draft.used.add(i)
        return found or quantities, tuple(having)

    def _on_the_first_axis(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Claims per year and what was paid on them: what was paid, whenever it was, on the claims of each year."""
        first, *others = ask.quantities or (None,)
        grouped = any(isinstance(p, m.EventTime) for p in m.parts(ask.groups))
        if not isinstance(first, m.Aggregated) or first.table is None or not grouped:
            return ask
        time = event_time(self.catalogue, first.table)
        besides = any(draft.asks_besides(i) for i, _ in draft.of(Measured))
        below = any(self.catalogue.path(t, first.table) for q in others for t in m.tables_in(q) - {first.table})
        if not besides or not below or time is None:
            return ask
        return m.timed_by(ask, m.Col(time))  # type: ignore[return-value]

    def _when_named(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """On which weekday most bookings start: a date of the rows that is only named is when they count."""
        # Members who left each month are counted, by the same words, by when they did.
        counted = {i for i, _ in draft.of(Counted)}
        for i, noun in draft.of(Noun):
            if noun.key is None or noun.key not in self.nouns.dates or noun.key.table != ask.head:
                continue
            if i in draft.used - counted:
                continue
            if any(isinstance(g, m.PartOf) and isinstance(g.of, m.EventTime) for g in ask.groups):
                draft.used.add(i)
                return m.timed_by(ask, m.Col(noun.key))  # type: ignore[return-value]
        return ask

    def _time_named(
        self, draft: Draft, where: tuple[m.Condition, ...], groups: list[m.Expr]
    ) -> tuple[tuple[m.Condition, ...], list[m.Expr]]:
        """A date that is only named, as by "joiners", is when things happened."""
        for i, noun in draft.of(Noun):
            if i in draft.used or noun.key is None or noun.key not in self.nouns.dates:
                continue
            change: dict[object, object] = {m.EventTime(): m.Col(noun.key)}
            if any(isinstance(p, m.EventTime) for p in m.parts((where, tuple(groups)))):
                draft.used.add(i)
                return m.replaced(where, change), list(m.replaced(tuple(groups), change))  # type: ignore[return-value,call-overload]
        return where, groups

    def _use_unknown(self, draft: Draft) -> None:
        """An unknown noun is the rows."""
        for i, noun in draft.of(Noun):
            if noun.unknown:
                draft.used.add(i)
                draft.cost("rows by another word", 0.3)
                self._lose_singular(draft, noun)
                return

    @staticmethod
    def _lose_singular(draft: Draft, noun: Noun) -> None:
        """Rows are called by a plural: one of what nothing here is called is not read."""
        word = noun.unknown.lower()
        if not word.endswith("s") and word not in _MANY and stem(word) not in _PEOPLE and word in draft.words:
            draft.lost.add(draft.words.index(word))

    def _noun_groups(
        self, draft: Draft, groups: list[m.Expr], quantities: Sequence[m.Quantity], kinds: set[type]
    ) -> list[m.Expr]:
        """Nouns beside a quantity that are groups: "regions and their sales"."""
        measured = set(m.columns_in(tuple(quantities)))
        for i, noun in draft.of(Noun):
            if i in draft.used or noun.unknown:
                continue
            if noun.key is not None and noun.key not in measured:
                column = self.nouns.column(noun.key)
                expr = m.Col(noun.key)
                if (
                    expr in groups
                    or (Asking not in kinds and self._follows_a_condition(draft, i))
                    or (quantities and self._is_what_it_is_for(draft, i))
                ):
                    draft.used.add(i)
                elif not column.is_measure and not column.type.is_time and not groups:
                    groups = [*groups, expr]
                    draft.used.add(i)
                    draft.cost(
                        "noun as group",
                        (0.3 if Asking in kinds else 0.65 if kinds & {Counted, Worked} else 0.42)
                        + 1.2 * max(0.0, 0.9 - draft.edges[i].score)
                        + 0.8 * self._stands_before_a_measure(draft, i)
                        # Members who attended are those, and no two groups.
                        + 0.5 * (column.role is Role.FLAG),
                    )
        return groups

    @staticmethod
    def _is_what_it_is_for(draft: Draft, place: int) -> bool:
        """True for what money was spent on, said as one: of feed there is no group for each kind."""
        edge = draft.edges[place]
        word = draft.words[edge.end - 1]
        return draft.words[edge.start - 1 : edge.start] == ("on",) and not word.endswith("s")

    @staticmethod
    def _stands_before_a_measure(draft: Draft, place: int) -> bool:
        """True for the first word of "recruitment spend", which says what kind of spending."""
        after = [v for i, v in draft.items if i == place + 1]
        joined = place + 1 < len(draft.edges) and draft.edges[place].end == draft.edges[place + 1].start
        return joined and any(isinstance(v, (Measured, Worked, Counted)) for v in after)

    @staticmethod
    def _follows_a_condition(draft: Draft, place: int) -> bool:
        """True for the customers of "to corporate customers": they are those of the condition."""
        before = [v for i, v in draft.items if i == place - 1]
        joined = place > 0 and draft.edges[place - 1].end == draft.edges[place].start
        return joined and any(isinstance(v, Part) and v.kind == "value" for v in before)

    def counts_of_groups(
        self, where: Sequence[m.Condition], groups: list[m.Expr], quantities: Sequence[m.Quantity]
    ) -> tuple[tuple[m.Condition, ...], tuple[m.Having, ...]]:
        """ "Countries with at least 100 guests": so many rows a group, where the rows are those that are grouped."""
        kept: list[m.Condition] = []
        having: list[m.Having] = []
        tables = {t for g in groups for t in tables_of(g)}
        flat = [i for c in where for i in (c.items if isinstance(c, m.All) and groups else (c,))]
        for condition in flat:
            none = condition.item if isinstance(condition, m.Not) else None
            if isinstance(none, m.Has) and groups and tables == {none.rows.table}:
                # Customers of a flat table who never bought one: none of their rows is such.
                counted = dataclasses.replace(self.nouns.counted(none.rows.table), where=none.rows.where)
                having.append(m.Having(counted, "=", m.Number(0.0)))
            elif (has := none or condition) and isinstance(has, m.Has) and (below := self._above_groups(tables, has)):
                # Customers who bought a stout, or never did: of the rows that they stand on, so many are such.
                counted = dataclasses.replace(self.nouns.counted(below), where=has.rows.where)
                zero = m.Having(counted, "=", m.Number(0.0))
                having.append(zero if none is not None else m.Having(counted, has.op, m.Number(has.number)))
            elif isinstance(condition, m.Has) and (things := self._counted_that_has(condition, quantities, groups)):
                # How many pubs that ordered more than 20 times there are in each town: each pub did so.
                kept.append(self._of_those_that_have(condition, things, tables))
            elif isinstance(condition, m.Has) and groups and self._grouped_by(condition.rows.table, tables):
                counted = dataclasses.replace(self.nouns.counted(condition.rows.table), where=condition.rows.where)
                having.append(m.Having(counted, condition.op, m.Number(condition.number)))
            elif (
                isinstance(condition, m.Has) and groups and (key := self._pointing(tables, condition.rows)) is not None
            ):
                # Learners on more than one course: so many different ones on their rows.
                having.append(m.Having(m.Aggregated("distinct", m.Col(key)), condition.op, m.Number(condition.number)))
            else:
                kept.append(condition)
        return tuple(kept), tuple(having)

    def _names_any(self, groups: Sequence[m.Expr], table: str) -> bool:
        """True where the groups are the rows of a table themselves."""
        keys = [g.key for g in groups if isinstance(g, m.Col)]
        return any(key.table == table and self.nouns.tells_rows(key) for key in keys)

    def _counted_that_has(self, has: m.Has, quantities: Sequence[m.Quantity], groups: Sequence[m.Expr]) -> str | None:
        """The table of the things that are counted, where so many rows belong to each."""
        points = {m.ColumnKey(r.table, r.column): r.other for r in self.catalogue.relationships}
        for quantity in quantities:
            match quantity:
                case m.Aggregated(function="count", expr=None, table=str(counted)):
                    pass
                case m.Aggregated(function="distinct", expr=m.Col(key=key)) if key in points:
                    counted = points[key]
                case m.Aggregated(expr=m.Col(key=key)) if not self._names_any(groups, key.table):
                    # The floor space of the units that are let, at each site.
                    counted = key.table
                case _:
                    continue
            if counted != has.rows.table and self.catalogue.path(has.rows.table, counted) is not None:
                return counted
        return None

    def _of_those_that_have(self, has: m.Has, counted: str, tables: set[str]) -> m.Condition:
        """The condition on the things themselves; of things told by rows below them, that they are among those of whom it holds."""
        key = self.catalogue.table(counted).key
        if key is None or all(self.catalogue.path(counted, t) is not None for t in tables):
            return has
        own = m.ColumnKey(counted, key.name)
        return m.Among(own, m.Ask(counted, where=(has,), shows=(m.Col(own),)))

    def _above_groups(self, tables: set[str], has: m.Has) -> str | None:
        """The grouped rows, where what is there or not is told of rows that they point at."""
        table = next(iter(tables)) if len(tables) == 1 else None
        if table is None or not has.rows.where or table == has.rows.table:
            return None
        return table if self.catalogue.path(table, has.rows.table) else None

    def _pointing(self, tables: set[str], rows: m.Rows) -> m.ColumnKey | None:
        """The column of grouped rows that points at others."""
        if len(tables) != 1 or rows.where:
            return None
        table = next(iter(tables))
        found = (r for r in self.catalogue.relationships if r.table == table and r.other == rows.table)
        return next((m.ColumnKey(table, r.column) for r in found), None)

    def _grouped_by(self, table: str, tables: set[str]) -> bool:
        return all(self.catalogue.path(table, t) is not None for t in tables)

    def _shares(
        self, draft: Draft, groups: list[m.Expr], quantities: list[m.Quantity]
    ) -> tuple[list[m.Quantity], list[m.Condition]] | None:
        """The quantities with the shares that are asked for, and the conditions that went into these."""
        skip: list[m.Condition] = []
        for i, shared in draft.of(Shared):
            if shared == Shared() and any(isinstance(v, (Versus, OfTop, Rated)) for _, v in draft.items):
                # The percentage of a change comes with it, and what is a share is one in per cent.
                draft.used.add(i)
                continue
            made = self._share(draft, i, shared, groups, quantities)
            if made is None:
                return None
            quantity, condition, replaces = made
            others = [q for q in quantities if q != replaces]
            # What was asked for before it stands before it, where it takes nothing's place.
            behind = replaces is None and shared.condition is not None and draft.has_figure_before(i)
            quantities = [*others, quantity] if behind else [quantity, *others]
            if condition is not None:
                skip.append(condition)
            draft.used.add(i)
        return quantities, skip

    def _share(
        self, draft: Draft, place: int, shared: Shared, groups: list[m.Expr], quantities: list[m.Quantity]
    ) -> tuple[m.Quantity, m.Condition | None, m.Quantity | None] | None:
        of = shared.of
        if isinstance(of, Measured) and isinstance(of.expr, m.Given) and isinstance(shared.condition, m.Is):
            # The share of consumption in GDP is of two figures that stand in rows of their own.
            return _percentage(m.Given(of.expr.of, shared.condition), of.expr), None, None
        joint = (
            self.nouns.residing.get(tables_of(of.expr)[0]) if isinstance(of, Measured) and tables_of(of.expr) else None
        )
        if isinstance(of, Measured) and joint not in (None, of.expr) and shared.condition is None:
            # The share of those over 65 is of all who live there.
            if set(m.columns_in(of.expr)) < set(m.columns_in(joint)):
                return _percentage(of.expr, joint), None, None
        if isinstance(of, Measured) and isinstance(of.expr, m.Col) and shared.condition is None:
            whole = self.nouns.whole_of(of.expr.key)
            made = self.nouns.base_of(of.expr) if groups and self.nouns.is_spoiled(of.expr.key) else None
            if made is not None:
                # The percentage of scrap is of all that was made.
                return _percentage(of.expr, made), None, None
            if whole is not None and not any(p.kind == "state" for _, p in draft.of(Part)):
                # The share of women is of all people, and not of all women.
                return _percentage(of.expr, m.Col(whole)), None, None
        condition = shared.condition
        expr = of.expr if isinstance(of, Measured) else None
        head: str | None = of.table if isinstance(of, Noun) else None
        replaces: m.Quantity | None = None
        if of is None and condition is None and quantities:
            # What has a condition of its own stands beside the figure: a no-show rate beside the average rating.
            first = quantities[0]
            if isinstance(first, m.Aggregated) and not first.where:
                replaces = first
                expr, head = (first.expr, None) if first.function == "sum" else (None, first.table)
        if isinstance(of, Noun) and of.key is not None:
            if not groups:
                return None
            draft.cost("share of values", 0.25)
        parts = [(i, p.condition) for i, p in draft.of(Part) if p.kind != "time"]
        kinds = ("state", "flag", "number", "gap")
        later = [
            p.condition
            for i, p in draft.of(Part)
            if i > place and (p.kind in kinds or (p.kind == "related" and draft.says(i, _HAD)))
        ]
        if condition is not None and later and later[-1] != condition:
            # What share of the women survived: the women are all of whom some did.
            condition = later[-1]
            draft.items = (*draft.items, (place, Part(shared.condition, "value")))  # type: ignore[arg-type]
            parts = []
        if condition is None and parts:
            after = [c for i, c in parts if i > place]
            before = [c for i, c in parts if i < place]
            condition = after[-1] if after else before[-1]
            draft.cost("share's condition", 0.05 if after else 0.2)
        if condition is None and not parts:
            times = [p.condition for _, p in draft.of(Part) if p.kind == "time"]
            # Of a share that is split by nothing the time is what it is of; a day of the week or an hour always is.
            times = [c for c in times if comes_again(c) or not groups]
            condition = times[-1] if times and expr is None else None
        if isinstance(of, Noun) and of.unknown:
            draft.cost("rows by another word", 0.2)
        if condition is None:
            if not groups:
                return None
            base: m.Quantity = (
                m.Aggregated("sum", expr) if expr is not None else self.nouns.counted(head or self._head(draft, groups))
            )
            return m.Along(base, "share"), None, replaces
        named = [(place, head)] if head is not None else self._tables_named(draft)
        happened = next((t for t in tables_of(condition) if event_time(self.catalogue, t) is not None), None)
        if expr is None and named and draft.says(place, ("rate", "rates")) and happened is not None:
            measured = any(self.nouns.column(k).is_measure for k in m.columns_in(condition))
            if self._is_below(named[0][1], condition) and not (measured or isinstance(condition, m.Has)):
                # The rate at which some customers got theirs late is of what they ordered.
                draft.used.add(named[0][0])
                return self._share_of(condition, happened, None), condition, None
        if expr is None and head is None:
            below = [t for t in tables_of(condition) if named and self._is_below(named[0][1], condition)]
            if below and not isinstance(condition, m.Has):
                # Of the owners, the share that has a dog.
                told = condition
                condition = m.Has(m.Rows(below[0], (told,)))
                draft.used.add(named[0][0])
                return m.ShareOf((condition,), named[0][1]), told, replaces
            own = tables_of(condition)
            head = self._head(draft, groups) if named or groups or not own else own[0]
            if own and not named and not tables_of(groups) and event_time(self.catalogue, own[0]) is not None:
                states = [p.condition for _, p in draft.of(Part) if p.kind == "state"]
                if condition in states or self.catalogue.path(head, own[0]) is None:
                    # The share that failed by month is of those that can fail, whatever else the workspace is about.
                    head = own[0]
            for t in tables_of(condition):
                if self.catalogue.path(head, t) is None:
                    # Of no clinic it is said that it is a dog: the share is of the rows that know both.
                    head = lowest_table([t, head], self.catalogue) or head
        weight = self.nouns.vocabulary.weights.get(head) if head is not None and expr is None else None
        if weight is not None:
            head, expr = None, m.Col(weight)
        return self._share_of(condition, head, expr), condition, replaces

    def versus(
        self,
        draft: Draft,
        versus: Sequence[tuple[int, Versus]],
        quantities: list[m.Quantity],
        groups: list[m.Expr],
    ) -> tuple[list[m.Quantity], list[m.Expr], tuple[m.Condition, ...]]:
        """What is worked out of both of two, the groups it is told by, and the conditions that leave the two."""
        i, pair = versus[0]
        draft.used.add(i)
        one, two = pair.one, pair.two
        ends = isinstance(one, m.Compared) and isinstance(two, m.Compared)
        # The month with the biggest rise in 2025: the year before is not said, and no month is held against it.
        lined = self._as_line(groups) if ends or (pair.implied and draft.of(Top)) else None
        if lined is not None:
            # In which month it rose most: each month is held against the one before.
            kind: Literal["change", "change_percent"] = "change_percent" if _RELATIVELY & set(draft.words) else "change"
            held: list[m.Quantity] = [
                q if isinstance(q, (m.Along, m.Between)) else m.Along(q, kind) for q in quantities
            ]
            return held, lined, () if ends or one is None else (one,)
        if isinstance(one, m.Compared) and isinstance(two, m.Within):
            one, two = self._to_the_last(draft, quantities, two) or (one, two)
        if isinstance(one, m.Compared):
            one = self._end_of_all(draft, quantities, "high") or one
        if isinstance(two, m.Compared):
            two = self._end_of_all(draft, quantities, "low") or two
        if pair.implied and isinstance(one, m.Within) and isinstance(two, m.Within):
            one, two = self._so_far(draft, quantities, one, two)
        if _is_before(one, two):
            # What changed is always told from the earlier time to the later.
            one, two = two, one
        differing = any(v == "more" for _, v in draft.items)
        said = set(draft.words)
        changing = said & ((_COMPARING - {"from", "between"}) | _GAINING | _RELATIVELY) or draft.of(Moved) or differing
        if isinstance(one, m.Within) and {"from", "to"} <= said and not changing:
            # From March to June is a stretch of time where nothing says that anything changed.
            draft.cost("from one time to another", 0.5)
        if isinstance(one, m.Is) and isinstance(two, m.Is) and one.column == two.column and not differing:
            both = m.Is(one.column, (*one.values, *two.values))
            group = m.Col(one.column)
            return quantities, [*groups, *([] if group in groups else [group])], (both,)
        if isinstance(one, m.Is) and isinstance(two, m.Is):
            draft.cost("values of two columns", 0.2 * (one.column != two.column))
            measured = {t for q in quantities for t in (*tables_of(q), *m.counted_in(q))}
            if any(self.catalogue.path(t, one.column.table) is None for t in measured):
                # The marks of one term and of another, and not the days of absence in it.
                draft.cost("held against what does not tell it", 0.8)
        made: list[m.Quantity] = []
        yearly = all(isinstance(c, m.Within) and are_whole_years(c.low, c.high) for c in (one, two))
        finer = any(isinstance(g, m.PartOf) and g.unit in ("month", "quarter", "week") for g in groups)
        if yearly and finer and "and" in draft.words and not _COMPARING & set(draft.words):
            # By quarter for 2023 and 2024: the quarters of both years follow each other.
            return quantities, groups, (m.Any(tuple(c for c in (two, one) if c is not None)),)
        if (
            yearly
            and one is not None
            and two is not None
            and any(_is_said_of_each(draft, i, g) for i, g in draft.of(Grouped))
        ):
            # By how much it changed each year, from one year to another, is a line of years.
            span = m.Within(m.EventTime(), two.low, one.high)  # type: ignore[union-attr]
            line: list[m.Quantity] = [
                m.Along(q, "change_percent") if isinstance(q, m.Aggregated) else q for q in quantities
            ]
            return line, groups, (span,)
        if yearly:
            # Two years held against each other are no line of years.
            groups = [g for g in groups if not (isinstance(g, m.PartOf) and g.unit == "year")]
        groups = [_of_any_year(g, one, two) for g in groups]
        for quantity in quantities:
            if any(isinstance(g, m.PartOf) and g.unit not in _RECURRING for g in groups):
                draft.cost("periods within periods", 1.5)
            if isinstance(quantity, (m.Aggregated, m.ShareOf, m.Combined)) and one is not None and two is not None:
                atoms = [m.under(quantity, c) for c in (two, one)]
                words = set(draft.words)
                absolute = bool(words & _GAINING) and not words & _RELATIVELY
                made += [*atoms, m.Between(quantity, two, "before", one, "after", absolute)]
            else:
                made.append(quantity)
        return made, groups, ()

    def _as_line(self, groups: list[m.Expr]) -> list[m.Expr] | None:
        """The groups where one of them is a line of periods, a column of years as one; None where none is."""
        found: list[m.Expr] = []
        for group in groups:
            timed = isinstance(group, m.Col) and event_time(self.catalogue, group.key.table) == group.key
            if timed and isinstance(group, m.Col):
                # A column of years, or of quarters that are written as text.
                group = m.PartOf(self.nouns.grain(group.key.table), m.EventTime())
            found.append(group)
        units = [g.unit for g in found if isinstance(g, m.PartOf)]
        return found if len(units) == 1 and units[0] in ("year", "quarter", "month", "week", "day") else None

    def _share_of(self, condition: m.Condition, table: str | None, expr: m.Expr | None) -> m.ShareOf:
        """A share; of a yes or no it is of those who have said either."""
        among: tuple[m.Condition, ...] = ()
        if expr is None and isinstance(condition, m.Is) and condition.column.table == table:
            column = self.nouns.vocabulary.column(condition.column)
            if column.type is Type.BOOLEAN and column.missing and column.distinct > 1:
                among = (m.Not(m.Missing(condition.column)),)
        return m.ShareOf((condition,), table, expr, among)

    def _share_of_such(self, draft: Draft, quantities: list[m.Quantity]) -> m.ShareOf | None:
        """Cancelled visits as a percentage are told of all visits."""
        kinds = ("value", "state", "flag", "gap")
        said = tuple(
            p.condition
            for _, p in draft.of(Part)
            # Visits at weekends are told of all; those of a year are all that there were in it.
            if p.kind in kinds or (p.kind == "time" and comes_again(p.condition))
        )
        named = self._tables_named(draft)
        if not said or len(quantities) > 1:
            return None
        first = quantities[0] if quantities else self.nouns.counted(named[0][1]) if named else None
        if not isinstance(first, m.Aggregated) or first.where or first.function not in ("count", "sum"):
            return None
        draft.used.update(i for i, _ in named)
        return m.ShareOf(said, first.table if first.expr is None else None, first.expr)

    def _to_the_last(
        self, draft: Draft, quantities: list[m.Quantity], base: m.Within
    ) -> tuple[m.Within, m.Within] | None:
        """The last time there is and that which something began with, both as long as the data are told by.

        Of a stretch that ends today, what is told again each month is held against as long before, and what happened
        in it against the stretch before.
        """
        table = self._head(draft, quantities)
        time = event_time(self.catalogue, table)
        last = last_day(self.nouns.column(time)) if time is not None else None
        low, high = base.low, base.high
        if last is None or low is None or high is None:
            return None
        grain = self.nouns.grain(table)
        unit = unit_of(Span(low, high))
        stock = any(self.nouns.is_stock(k) for k in m.columns_in(quantities))
        if unit is None and not self.nouns.vocabulary.is_told_again(table):
            length = high - low + dt.timedelta(days=1)
            return m.Within(base.time, low, high), m.Within(base.time, low - length, high - length)
        if unit is None:
            periods = max(1, round((high - low).days / 30.44 / MONTHS_IN.get(grain, 1)))
            spans = unit_span(grain, last, 0), unit_span(grain, last, -periods)
        elif unit == "year" and (low.year == last.year or stock):
            # Since January: month by month; of what stands at a time, its first month and not all of its year.
            finer = grain if stock else "month"
            spans = unit_span(finer, last, 0), unit_span(finer, low, 0)
        else:
            # A year that the data do not tell to its end is no whole one.
            runs = unit == "year" and time is not None and self.nouns.column(time).type.is_time and last.month < 12
            spans = unit_span(unit, last, -1 if runs and low.year < last.year - 1 else 0), Span(low, high)
        end, first = (m.Within(base.time, s.low, s.high) for s in spans)
        if end == first and unit is not None:
            # Of the last month that the data tell of the next is what it is held against, though nothing is there yet.
            after = unit_span(unit, low, 1)
            end = m.Within(base.time, after.low, after.high)
        return (end, first) if end != first else None

    def _so_far(
        self, draft: Draft, quantities: list[m.Quantity], one: m.Within, two: m.Within
    ) -> tuple[m.Within, m.Within]:
        """A year that still runs is held against the same days of the year before, as far as the data tell of it."""
        table = self._head(draft, quantities)
        time = event_time(self.catalogue, table)
        column = self.nouns.column(time) if time is not None else None
        last = last_day(column) if column is not None and column.type.is_time else None
        low, high = one.low, one.high
        if last is None or low is None or high is None or not low <= last < high or unit_of(Span(low, high)) != "year":
            return one, two
        if any(self.nouns.is_stock(k) for k in m.columns_in(quantities)):
            spans = [unit_span(self.nouns.grain(table), day, 0) for day in (last, in_year(last, last.year - 1))]
            end, first = (m.Within(one.time, s.low, s.high) for s in spans)
            return end, first
        start = in_year(low, low.year - 1)
        return m.Within(one.time, low, last), m.Within(two.time, start, in_year(last, last.year - 1))

    def _end_of_all(self, draft: Draft, quantities: list[m.Quantity], end: Literal["low", "high"]) -> m.Within | None:
        """The first or the last year that the data tell of; of a single year its first or its last whole month."""
        time = event_time(self.catalogue, self._head(draft, quantities))
        column = self.nouns.column(time) if time is not None else None
        if column is None:
            return None
        ends = [re.search(r"((?:19|20)\d\d)(?:-(\d\d)-(\d\d))?", str(v)) for v in (column.low, column.high)]
        first, last = ends
        if first is None or last is None:
            return None
        if first[1] == last[1] and first[2] and last[2]:
            low, high = (dt.date(int(e[1]), int(e[2]), int(e[3])) for e in (first, last))
            begun = low if low.day == 1 else months_later(low.replace(day=1), 1)
            over = high + dt.timedelta(days=1)
            ended = months_later(over.replace(day=1), -1)
            if begun < ended:
                day = begun if end == "low" else ended
                return m.Within(m.EventTime(), day, months_later(day, 1) - dt.timedelta(days=1))
        year = int(first[1] if end == "low" else last[1])
        return m.Within(m.EventTime(), dt.date(year, 1, 1), dt.date(year, 12, 31))

    def _beside(
        self, draft: Draft, besides: Sequence[tuple[int, Beside]], quantities: list[m.Quantity], groups: list[m.Expr]
    ) -> list[m.Quantity]:
        kinds = {b.kind for _, b in besides}
        if "share" in kinds and kinds & {"change", "change_percent", "year_before"}:
            # Growth in per cent is no share.
            draft.used.update(i for i, _ in besides)
            besides = [
                (i, Beside("change_percent") if b.kind == "change" else b) for i, b in besides if b.kind != "share"
            ]
        if {"share", "share_within"} <= kinds:
            # The mix of reasons by clinic, as percentages, is within each clinic.
            draft.used.update(i for i, _ in besides)
            besides = [(i, b) for i, b in besides if b.kind != "share"]
        for i, beside in besides:
            draft.used.add(i)
            if _change_among(quantities) is not None or all(_is_along(q, beside.kind) for q in quantities):
                continue
            if beside.kind == "year_before" and any(isinstance(g, m.PartOf) and g.unit == "year" for g in groups):
                # Of years, the year before is the one before.
                beside = Beside("change")
            if beside.kind == "year_before" and not any(isinstance(g, m.PartOf) for g in groups):
                groups.insert(0, m.PartOf("year", m.EventTime()))
                beside = Beside("change_percent")
            if beside.kind in m.ALONG_TIME:
                timed = [g for g in groups if isinstance(g, m.PartOf)]
                said = " ".join(draft.words)
                banded = any(isinstance(g, (m.Band, m.Tile)) for g in groups)
                shares = bool(groups) and ("share" in kinds or any(_is_along(q, "share") for q in quantities))
                # A cumulative distribution runs along the bands, a cumulative share from the largest on.
                ordered = bool(timed) or (beside.kind == "running" and (banded or shares))
                years = beside.kind.startswith("change") and _spans_whole_years(draft)
                if not ordered and (years or _YEARLY & set(draft.words) or any(w in said for w in _ON_YEARS)):
                    groups.insert(0, m.PartOf("year", m.EventTime()))
                elif not ordered:
                    groups.insert(0, m.PartOf(self.nouns.grain(self._head(draft, quantities, groups)), m.EventTime()))
                    # A change between two years is that of the one on the other.
                    draft.cost("silent months", 0.2 if "between" not in draft.words else 0.5)
            elif not groups:
                draft.cost("share of one", 0.6)
            shared = beside.kind == "share"
            if shared and quantities and all(_is_ratio(q) for q in quantities) and "total" not in draft.words:
                # A margin in percent is that margin.
                continue
            quantities = [
                q if shared and isinstance(q, m.ShareOf) else m.Along(q, beside.kind, beside.number)  # type: ignore[arg-type]
                for q in quantities
            ]
        return quantities

    # --- the most and the least

    def _top(self, draft: Draft, kinds: set[type]) -> m.Ask | None:
        tops = draft.of(Top)
        if not tops:
            return None
        if any(a.what == "list" and draft.words[draft.edges[i].start] != "all" for i, a in draft.of(Asking)):
            draft.items = tuple((i, _as_shown(v, draft.edges[i].category)) for i, v in draft.items)
        i, top = tops[0]
        draft.used.add(i)
        draft.cost("rows' own name for a figure", 0.3 * self._figures_called_as_rows(draft, [i]))
        if "when" in draft.asks() and (top.noun is not None or top.by is not None):
            return self._first_time(draft, top)
        if len(tops) > 1:
            draft.cost("two tops", 0.4)
            other = tops[1][1]
            bare = top.by is None and draft.words[draft.edges[i].start] in ("top", "first")
            top = dataclasses.replace(
                top,
                # The top five cheapest are the cheapest.
                descending=other.descending if bare else top.descending,
                by=top.by or other.by,
                noun=top.noun or other.noun,
                number=top.number or other.number,
                counts=top.counts or other.counts,
            )
            one, two = draft.edges[i], draft.edges[tops[1][0]]
            if bare or other.descending == top.descending or not {"and", "&"} & set(draft.words[one.end : two.start]):
                # The cheapest and the dearest are two questions: of the other it is said that it was not read.
                draft.used.add(tops[1][0])
        raced = self.nouns.vocabulary.least_is_best
        judged = isinstance(top.by, m.Col) and top.by.key in raced
        if judged and draft.says(i, _RANKING):
            # The best time is the shortest.
            top = dataclasses.replace(top, descending=draft.says(i, _LAST_OF_ALL))
        turned = not judged and draft.says(i, JUDGING) and (draft.measures_trouble() or self._troubles(draft, top))
        if turned:
            # The worst by no-shows has the most of them.
            top = dataclasses.replace(top, descending=not top.descending)
        for j, direction in draft.of(Direction):
            # In ascending order, the top three: which end comes first is said.
            top = dataclasses.replace(top, descending=direction.descending)
            draft.used.add(j)
        if top.by is None and not top.counts and top.noun is None and not draft.of(Worked) and not draft.of(Counted):
            said = next((p.expr for _, p in draft.of(Measured)), None)
            measure = said if said is not None else self.nouns.main_measure(self._head(draft))
            if isinstance(measure, m.Col) and measure.key in raced and draft.says(i, _RANKING):
                # The top ten of a race are those who took least.
                top = dataclasses.replace(top, descending=draft.says(i, _LAST_OF_ALL), by=measure)
        if top.by is None and not top.counts and draft.says(i, _JUDGED) and not draft.of(Measured):
            top = self._judged_by_how_many(draft, i, top)
        if top.by is None and not top.counts and self._ranked_by_such(draft, i):
            # The top three sources by hires are those of which most were hired.
            top = dataclasses.replace(top, counts=True)
        if top.by is None and top.noun is not None and not top.counts:
            top = self._by_a_group(draft, top)
        if top.by is None and top.noun is None and self._is_of_doings(draft, i):
            top = dataclasses.replace(top, counts=True)
        groups = self._groups(draft)
        if groups is None:
            return None
        if Moved in kinds or Stepped in kinds:
            return None
        subject = top.noun or self._subject(draft, i)
        if top.percent and top.number is not None:
            each = self.nouns.group(subject) if subject is not None else None
            if not isinstance(each, m.Col):
                return None
            top = dataclasses.replace(top, number=self._so_many_percent(subject, each, top.number), percent=False)
        named = self.nouns.group(subject) if subject is not None and Shared in kinds else None
        quantities = self._quantities(draft, bare=top.by is None)
        with_shares = self._shares(draft, [*groups, *([named] if named is not None else [])], quantities)
        if with_shares is None:
            return None
        quantities, skip = with_shares
        where = self._conditions(draft, skip)
        functions = draft.of(Function)
        if top.by is not None and functions:
            quantities = [m.Aggregated(functions[0][1].function, top.by)]  # type: ignore[arg-type]
            draft.used.add(functions[0][0])
            top = dataclasses.replace(top, by=None)
        besides = draft.of(Beside)
        versus = draft.of(Versus)
        if versus and top.by is not None and not quantities:
            quantities = [self.nouns.aggregate(top.by)]
            top = dataclasses.replace(top, by=None)
        last = groups[-1] if groups else None
        if isinstance(last, m.PartOf):
            several = draft.asks_for_times(last.unit)
        else:
            several = subject is not None and draft.asks_for_several(subject)
        number = top.number if top.number is not None else SEVERAL if several else 1
        follows = any(j == i + 1 and n == subject for j, n in draft.of(Noun)) and self._each(draft)
        # The busiest hour for visits is one of the hours.
        of_times = top.counts and len(groups) == 1 and isinstance(groups[0], m.PartOf)
        if top.noun is None and top.by is None and groups and (top.number is not None or of_times) and not follows:
            # "Repairs per property, top 5": the groups are what there is most of.
            if subject is not None and subject.table is not None and not quantities:
                quantities = [self.nouns.counted(subject.table)]
            subject = None
        ask = self._ranked(draft, top, subject, groups, quantities, where, number)
        if ask is None:
            return None
        if ask.per and several and top.number is None:
            ask = ask.but(limit=SEVERAL_OF_EACH)
        if not judged and not turned and draft.says(i, JUDGING) and ask.quantities:
            ask = self.judged(ask)
        if versus:
            # The most of what changed.
            if not ask.groups or not ask.quantities:
                return None
            made, groups, extra = self.versus(draft, versus, [ask.quantities[0]], list(ask.groups))
            lined = next((q for q in made if isinstance(q, m.Along)), None)
            change = _change_among(made) or lined
            if change is None:
                return None
            ask = ask.but(quantities=tuple(made), where=(*ask.where, *extra), order=(m.Order(change, top.descending),))
            if lined is not None:
                ask = ask.but(groups=tuple(groups))
        if besides:
            wrapped = tuple(self._beside(draft, besides, list(ask.quantities), list(ask.groups)))
            if wrapped and ask.order:
                order = tuple(
                    dataclasses.replace(o, by=wrapped[0])
                    if o.by == ask.quantities[0] and besides[0][1].kind != "share"
                    else o
                    for o in ask.order
                )
                ask = ask.but(quantities=wrapped, order=order)
        more, having = self._holds(draft, ask.head, ask.quantities, ask.groups[-1] if ask.groups else None)
        by_gaps = [e for e in self._named_by_gaps(draft) if ask.lists or self.is_told_of(ask, e.key.table)]
        theirs = [] if ask.per or ask.lists else self._of_theirs(draft, ask.groups)
        told = {m.Not(m.Missing(e.key)) for e in (*by_gaps, *theirs)}
        ask = ask.but(where=tuple(c for c in ask.where if c not in told), groups=(*ask.groups, *theirs))
        shows = (*self._shown(draft, ask), *by_gaps)
        if ask.lists and (names := self.nouns.split_name(ask.head)):
            shows = (*(n for n in names if n not in (*ask.shows, *shows)), *shows)
        elif ask.lists and ("who" in draft.asks() or self._is_only_numbered(ask.head)):
            person = next(
                (
                    p
                    for t in (
                        ask.head,
                        *(self._far_above(ask.head) if "who" in draft.asks() else ()),
                    )
                    if (p := self.nouns.person(t))
                ),
                None,
            )
            if person is not None and person != self.nouns.naming(ask.head):
                shows = (person, *shows)
        kept, counted = self.counts_of_groups((*ask.where, *more), list(ask.groups), ask.quantities)
        if any(isinstance(c, m.Is) and len(c.values) == 1 and m.Col(c.column) in ask.groups for c in kept):
            # Of one genre alone none is the most popular.
            draft.cost("a most among one", 1.2)
        return ask.but(
            where=kept,
            having=(*having, *counted),
            shows=(*ask.shows, *shows),
            skip=top.skip,
            chart=self._chart(draft),
        )

    @staticmethod
    def _judged_by_how_many(draft: Draft, place: int, top: Top) -> Top:
        """The worst for no-shows has the most of them, and the worst for those who came the fewest."""
        for j, part in draft.of(Part):
            said = draft.words[draft.edges[j].start : draft.edges[j].end]
            led = draft.words[max(draft.edges[j].start - 1, 0)] in ("for", "on", "at", "by", "with") or said[0] in (
                "for",
                "by",
            )
            if j > place and led and part.kind in ("state", "flag"):
                trouble = any(stem(w.replace("-", "")) in lexicon.troubles() for w in said)
                turned = trouble and draft.says(place, JUDGING)
                return dataclasses.replace(top, counts=True, descending=top.descending != turned)
        return top

    def _over_in_all(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Which department is over budget is told by all that it spent and was given, and not by a line of either."""
        if ask.quantities or ask.having or ask.shows or len(ask.groups) != 1 or "which" not in draft.words:
            return ask
        kind = ask.groups[0]
        if not isinstance(kind, m.Col) or kind.key.table != ask.head or self.nouns.names_rows(kind.key):
            return ask
        if any(n.table is not None for _, n in draft.of(Noun)):
            return ask
        held = [c for c in ask.where if isinstance(c, m.Compared) and self._is_against_plan(c)]
        if len(held) != 1:
            return ask
        assert isinstance(held[0].left, m.Col) and isinstance(held[0].right, m.Col)
        left, right = m.Aggregated("sum", held[0].left), m.Aggregated("sum", held[0].right)
        rest = tuple(c for c in ask.where if c is not held[0])
        return ask.but(where=rest, quantities=(left, right), having=(m.Having(left, held[0].op, right),))

    def _counts_things(self, quantity: m.Quantity) -> bool:
        """True for a number of rows that are no people, where some row leads both to these and to people."""
        if not isinstance(quantity, m.Aggregated) or quantity.function != "count" or quantity.table is None:
            return False
        path, counted, tables = self.catalogue.path, quantity.table, [t.name for t in self.catalogue.tables]
        if self.nouns.is_of_people(counted):
            return False
        people = [t for t in tables if self.nouns.is_of_people(t)]
        return any(path(t, p) is not None and path(t, counted) is not None for t in tables for p in people)

    def _is_of_birth(self, time: m.Expr, head: str) -> bool:
        """True for a time that is when somebody was born, or when rows happened that are people."""
        key = time.key if isinstance(time, m.Col) else None
        if isinstance(time, m.EventTime):
            key = event_time(self.catalogue, head)
        return key is not None and is_birth(self.nouns.vocabulary, key)

    def _tells_who(self, ask: m.Ask) -> bool:
        """True where an answer says who: of rows that are people, or by a column that is shown or grouped by."""
        if not ask.lists or ask.groups or ask.shows or self.nouns.is_of_people(ask.head):
            return True
        if self.nouns.who_rows_are(ask.head) is not None:
            return True
        # Of those who answered without a name the answers are all there is.
        nobody = not any(self.nouns.is_of_people(t.name) for t in self.catalogue.tables)
        return nobody and bool(_ANSWERED & {*self.nouns.vocabulary.tables[ask.head].parts})

    def _is_against_plan(self, held: m.Compared) -> bool:
        """True for two sums of a row held against each other, one of which was planned."""
        sides = (held.left, held.right)
        if not all(isinstance(s, m.Col) and self.nouns.column(s.key).role.is_summed for s in sides):
            return False
        return any(isinstance(s, m.Col) and PLANNED & {*self.nouns.vocabulary.columns[s.key].parts} for s in sides)

    def _judged_kinds(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Which teacher has the best results is told by how theirs are on average, and not by the best one of them."""
        one = len(ask.shows) == len(ask.order) == 1 and not ask.quantities and not ask.groups
        if not one or "who" in draft.asks() or "which" not in draft.words or not JUDGING & set(draft.words):
            return ask
        kind, order = ask.shows[0], ask.order[0]
        if not isinstance(kind, m.Col) or not isinstance(order.by, m.Col) or not self._is_performance(order.by):
            return ask
        if self.nouns.names_rows(kind.key) or any(t.number is not None for _, t in draft.of(Top)):
            return ask
        mean = m.Aggregated("mean", order.by)
        ranked = (m.Order(mean, order.descending),)
        return ask.but(shows=(), groups=(kind,), quantities=(mean,), order=ranked, limit=1)

    def judged(self, ask: m.Ask) -> m.Ask:
        """The best and the worst by what is worse the more there is of it, such as how late something came."""
        if not self._is_trouble(ask.quantities[0]):
            return ask
        return ask.but(order=tuple(dataclasses.replace(o, descending=not o.descending) for o in ask.order))

    def _is_trouble(self, quantity: m.Quantity) -> bool:
        """True for a quantity of troubles, or of what came after it was due."""
        words = self.nouns.vocabulary.columns

        def due(expr: object) -> bool:
            return isinstance(expr, m.Col) and bool(PROMISED & set(words[expr.key].parts))

        for part in m.parts(quantity):
            match part:
                case m.Length(start=start, end=end) if due(start) or (
                    isinstance(end, m.Col) and _DONE & set(words[end.key].parts)
                ):
                    return True
                case m.Compared(op=">", left=m.Col(), right=right) if due(right):
                    return True
                case m.Is(column=key, values=(True,)) if lexicon.troubles() & set(words[key].parts):
                    return True
                case m.Is(values=values) if lexicon.troubles() & {s for v in values for s in word_stems(str(v))}:
                    return True
                case m.Col(key=key) if lexicon.troubles() & set(words[key].parts):
                    return True
                case _:
                    pass
        return False

    def _troubles(self, draft: Draft, top: Top) -> bool:
        """True where nothing is measured but the main number of the rows, and that is worse the more there is of it."""
        if top.by is not None or top.counts or any(isinstance(v, (*_MEASURING, Worked)) for _, v in draft.items):
            return False
        expr = self.nouns.main_measure(self._head(draft))
        return isinstance(expr, m.Col) and bool(lexicon.troubles() & set(self.nouns.vocabulary.columns[expr.key].parts))

    @staticmethod
    def _is_of_doings(draft: Draft, place: int) -> bool:
        """True for whoever did a thing the most, where no amount is named: it is told by how often they did it."""
        words = draft.words[draft.edges[place].start : draft.edges[place].end]
        asked = any(a.what in ("which", "who") for i, a in draft.of(Asking) if i < place)
        amounts = any(isinstance(v, (*_MEASURING, Worked)) for _, v in draft.items)
        said = {"the", *_SO_OFTEN} >= {*words} and not _SO_OFTEN.isdisjoint(words)
        return asked and said and not amounts and not _is_earned(draft)

    def _by_a_group(self, draft: Draft, top: Top) -> Top:
        """The best agent in each team by satisfaction: what is named after "by" and measured says which is best."""
        for i, group in draft.of(Grouped):
            if isinstance(group.by, m.Below) and group.by.quantity.table is not None:
                # The top genres by number of loans.
                counted = Counted(Noun(table=group.by.quantity.table))
                draft.items = tuple((j, counted if j == i else v) for j, v in draft.items)
                return dataclasses.replace(top, counts=True)
            key = group.by.key if isinstance(group.by, Noun) else None
            rows = group.by.table if isinstance(group.by, Noun) else None
            if rows is not None and draft.says(i, ("by",)) and self._counts_of(top.noun, rows):
                # The top courses by applications in each faculty.
                draft.items = tuple((j, Counted(Noun(table=rows)) if j == i else v) for j, v in draft.items)
                return dataclasses.replace(top, counts=True)
            if key is not None and self.nouns.column(key).is_measure and draft.says(i, ("by",)):
                draft.items = tuple((j, v) for j, v in draft.items if j != i)
                draft.used.add(i)
                return dataclasses.replace(top, by=m.Col(key))
        return top

    def _counts_of(self, noun: Noun | None, rows: str) -> bool:
        """True where rows point at what a noun names, so that there are so many of them for each."""
        table = noun.table or (noun.key.table if noun.key is not None else None) if noun is not None else None
        return table is not None and table != rows and self.catalogue.path(rows, table) is not None

    def _first_time(self, draft: Draft, top: Top) -> m.Ask | None:
        """When the first of something was."""
        head = top.noun.table if top.noun is not None and top.noun.table is not None else self._head(draft, top.by)
        time = self.catalogue.table(head).time_column
        if time is None:
            return None
        expr = m.Col(m.ColumnKey(head, time.name))
        if isinstance(top.by, m.Col) and top.by.key.table == head and self.nouns.column(top.by.key).type.is_time:
            expr = top.by
        where = self._conditions(draft)
        return m.Ask(head, where, (m.Aggregated("max" if top.descending else "min", expr),))

    def _shown(self, draft: Draft, ask: m.Ask) -> tuple[m.Expr, ...]:
        """Further columns that a question names, to be shown beside its rows."""
        if not ask.lists:
            return tuple(self._beside_groups(draft, ask))
        shows: list[m.Expr] = []
        have = set(m.columns_in((ask.shows, ask.order)))
        # One piece may name several columns.
        free = {i for i, _ in draft.of(Noun) if i not in draft.used}
        missed: list[int] = []
        for i, noun in draft.of(Noun):
            if i not in free or (noun.key is not None and noun.key in have):
                continue
            name = m.Col(noun.key) if noun.key is not None else None
            if name is None and noun.table not in (None, ask.head):
                name = self.nouns.naming(noun.table) if noun.table is not None else None
            if name is None:
                continue
            if self.nouns.column(name.key).role is Role.FLAG and noun.key is not None:
                draft.cost("flag shown", 0.3)
            if self.catalogue.path(ask.head, name.key.table) is not None:
                shows.append(name)
                draft.used.add(i)
                draft.cost("shown", 0.08)
            else:
                missed.append(i)
        draft.cost("not to be shown", 0.5 * sum(i in draft.used for i in missed))
        for i, measured in draft.of(Measured):
            if i not in draft.used:
                if all(self.catalogue.path(ask.head, t) is not None for t in tables_of(measured.expr)):
                    shows.append(measured.expr)
                    draft.used.add(i)
                    # The highest grossing worldwide are so by what they grossed worldwide.
                    draft.cost("shown", 0.08 if measured.expr not in [o.by for o in ask.order] else 0.06)
        return tuple(shows)

    def is_told_of(self, ask: m.Ask, table: str) -> bool:
        """True where the groups of an answer are rows of a table, or belong to one of its rows each, so that its other
        columns can stand beside them."""
        keys = [g.key for g in ask.groups if isinstance(g, m.Col)]
        rows = [k.table for k in keys if self.nouns.names_rows(k)]
        rows += [r.other for r in self.catalogue.relationships if m.ColumnKey(r.table, r.column) in keys]
        return any(t == table or self.catalogue.path(t, table) is not None for t in rows)

    def _beside_groups(self, draft: Draft, ask: m.Ask) -> Iterator[m.Expr]:
        """Of things that are ranked, what else of them is named: the ten best customers with their town."""
        free = {i for i, _ in draft.of(Noun) if i not in draft.used}
        for i, noun in draft.of(Noun):
            named = noun.key is not None or noun.table is not None
            shown = self.nouns.group(noun) if i in free and named and not noun.unknown else None
            if isinstance(shown, m.Col) and shown not in ask.groups and self.is_told_of(ask, shown.key.table):
                draft.used.add(i)
                yield shown

    def _subject(self, draft: Draft, top: int) -> Noun | None:
        """The noun of which there is a most: the nearest, those before a top first."""
        if any(i == top + 1 and a.what == "who" for i, a in draft.of(Asking)):
            # The ten best-paid people who are still here.
            return self._who(draft, "who")
        doer = self._doer(draft)
        if doer is not None:
            return doer
        asked = next((i for i, a in draft.of(Asking) if a.what == "which"), None)
        said = next(((i, n) for i, n in draft.of(Noun) if i - 1 == asked and not n.unknown), None)
        if said is not None and top > said[0]:
            # "Which recruiter fills vacancies fastest" is about recruiters.
            draft.used.add(said[0])
            return said[1]
        timed = any(isinstance(g.by, m.PartOf) for _, g in draft.of(Grouped))
        nouns = [
            (abs(i - top) + (0.5 if i > top else 0.0), i, n)
            for i, n in draft.of(Noun)
            if not (timed and n.key in self.nouns.dates)
        ]
        if not nouns:
            who = next((a for a in draft.asks() if a in ("who", "where")), None)
            if who is not None:
                return self._who(draft, who)
            return None
        _, place, noun = min(nouns, key=lambda n: n[0])
        by = [t.by for i, t in draft.of(Top) if i == top and isinstance(t.by, m.Col)]
        if "who" in draft.asks() and by and noun.table == by[0].key.table:
            # Who completed the most hours of training is asked about people.
            person = self._who(draft, "who")
            if person is not None and person.key is not None and not self.nouns.tells_rows(person.key):
                draft.used.add(place)
                return person
        draft.used.add(place)
        return noun

    def _doer(self, draft: Draft) -> Noun | None:
        """Who booked most: what they do is a noun that stands right after, of rows that are of somebody."""
        place = next((i for i, a in draft.of(Asking) if a.what == "who"), None)
        done = next((n for i, n in draft.of(Noun) if place is not None and i == place + 1), None)
        if done is None or place is None:
            return None
        rows = done.table
        if rows is None and done.key is not None and self.nouns.tells_rows(done.key):
            rows = done.key.table if self.nouns.person(done.key.table) != m.Col(done.key) else None
        if rows is None or self.nouns.is_of_people(rows):
            return None
        person = self._of_those_served(draft, rows, self._person_of(rows, buys=not _DOING & set(draft.words)))
        if person is not None:
            draft.used.add(place + 1)
        return person

    def _of_those_served(self, draft: Draft, table: str, person: Noun | None) -> Noun | None:
        """Who books, spends or owes us is a customer whom the rows point at, and not who did the work."""
        if person is None or person.key is None or not _SERVED & set(draft.words):
            return person
        if self.nouns.is_buyer(m.Col(person.key)):
            return person
        people = (self.nouns.person(t) for t in self._far_above(table))
        found = next((p for p in people if p is not None and self.nouns.is_buyer(p)), None)
        return Noun(key=found.key) if found is not None else person

    def _who_they_are(self, table: str) -> m.Col | None:
        """Who the rows of a table are, or whose: a name on them, or that of the people far above."""
        own = self.nouns.who_rows_are(table)
        if own is not None:
            return own
        far = self._far_above(table)
        above = (self.nouns.person(t) for t in (*filter(self.nouns.is_of_people, far), *far))
        return next((p for p in above if p is not None), None)

    def _levels_above(self, table: str) -> Iterator[list[str]]:
        """The tables that the rows of one point at, then those that these point at: contract, boat, owner."""
        level, seen = [table], {table}
        while level:
            level = list(
                dict.fromkeys(r.other for t in level for r in self.catalogue.parents(t) if r.other not in seen)
            )
            seen.update(level)
            if level:
                yield level

    def _taught_by(self, table: str, *, buys: bool = True) -> Noun | None:
        """The pupils whose marks the rows of a table are, where the only person on them is who taught them."""
        column = self.nouns.person(table, buys=buys) if buys else None
        if column is None or not _TEACHING & {*self.nouns.vocabulary.columns[column.key].parts}:
            return None
        above = [r.other for r in self.catalogue.parents(table)]
        return next((Noun(table=t) for t in above if self.nouns.is_of_people(t)), None)

    def _person_of(self, table: str, *, buys: bool) -> Noun | None:
        """Whose the rows of a table are: a person on them, else the people whom they point at."""
        if (taught := self._taught_by(table, buys=buys)) is not None:
            return taught
        column = self.nouns.person(table, buys=buys)
        if column is not None:
            return Noun(key=column.key)
        for level in self._levels_above(table):
            # A contract is of a boat, and the boat is somebody's.
            people = next((t for t in level if self.nouns.is_of_people(t) and self.nouns.naming(t) is not None), None)
            if people is not None:
                return Noun(table=people)
            persons = (self.nouns.person(t, buys=buys) for t in level)
            if (person := next((p for p in persons if p is not None), None)) is not None:
                return Noun(key=person.key)
        # Plots are whose the tenancies of them say.
        holders = (
            t
            for t in self._reached_from_below(table)
            if self.nouns.is_of_people(t) and self.nouns.naming(t) is not None
        )
        return next((Noun(table=t) for t in holders), None)

    def _reached_from_below(self, table: str) -> list[str]:
        """What else the rows point at that point at a table: holders from plots, by the tenancies of these."""
        return [r.other for t in self.nouns.children(table) for r in self.catalogue.parents(t)]

    def _far_above(self, table: str) -> list[str]:
        """All tables that the rows of one belong to, the nearest first."""
        return [t for level in self._levels_above(table) for t in level]

    def _apart_from(self, people: str) -> Noun | None:
        """Who has people: whoever these belong to, or who does what is done with them."""
        others = (*self._far_above(people), *self._reached_from_below(people))
        person = next((p for t in others if t != people and (p := self.nouns.person(t)) is not None), None)
        return Noun(key=person.key) if person is not None else None

    def _what_was_done_with(self, draft: Draft, head: str) -> str:
        """Who borrowed a book is told by the loans of it, and not by the book: the rows that the verb is about."""
        doing = draft.words[1:2] if draft.words[:1] == ("who",) else ()
        if not doing or not doing[0].endswith(("ed", "t", "de", "ght", "k", "w")) or doing[0] in lexicon.fillers():
            return head
        rows = (t for t in self._happening_to(head) if self._happens(t) and self.nouns.is_about(t, doing[0]))
        return next(rows, head)

    def _who(self, draft: Draft, what: str) -> Noun | None:
        by = [t.by for _, t in draft.of(Top) if t.by is not None]
        measured = [v.expr for _, v in draft.items if isinstance(v, Measured)]
        counted = [v.noun.table for _, v in draft.of(Counted) if v.noun.table is not None]
        # Who has the most animals is whoever the animals belong to.
        has = draft.words[:1] == ("who",) and draft.words[1:2] and draft.words[1] in _HAS and draft.words[2:3] in _MOST
        head = counted[0] if counted and has and not by and not measured else self._head(draft, [*by, *measured])
        if what == "who" and self.nouns.split_name(head):
            return Noun(table=head)
        buys = not _DOING & set(draft.words)
        if what == "who" and counted and has and self.nouns.is_of_people(head):
            # Who has the most pupils is none of the pupils.
            return self._apart_from(head)
        if what == "who" and (taught := self._taught_by(head, buys=buys)) is not None:
            return taught
        column = self.nouns.person(head, buys=buys) if what == "who" else self.nouns.place(head)
        if has and column is not None and not self.nouns.is_buyer(column):
            # Who has the most plots is no inspector of them.
            draft.cost("who has by who does", 0.2)
        if column is None and what == "who":
            return self._of_those_served(draft, head, self._person_of(head, buys=buys))
        person = Noun(key=column.key) if column is not None else None
        return self._of_those_served(draft, head, person) if what == "who" else person

    def _ranked(
        self,
        draft: Draft,
        top: Top,
        subject: Noun | None,
        groups: list[m.Expr],
        quantities: list[m.Quantity],
        where: tuple[m.Condition, ...],
        number: int,
    ) -> m.Ask | None:
        by = top.by
        rows = subject is not None and bool(subject.unknown)
        if subject is not None and subject.unknown:
            draft.cost("rows by another word", 0.25)
            subject = None
        if rows and by is not None and groups and self._each(draft):
            # The biggest hit in every genre is one film of each.
            head = self._head(draft, by)
            if all(self.catalogue.path(head, t) is not None for g in groups for t in tables_of(g)):
                order = (m.Order(by, top.descending),)
                return m.Ask(head, where, shows=tuple(groups), order=order, limit=number, per=len(groups))
        if (
            subject is None
            and by is not None
            and top.number is None
            and groups
            and (self._each(draft) or self._by(draft))
        ):
            # "The longest wait at each clinic", "the longest wait by clinic" is one value for each.
            return None
        if subject is None and not quantities and not top.counts and not self._each(draft):
            # Of a measure the highest value is asked for, and not which value most rows have.
            groups = [g for g in groups if not (isinstance(g, m.Col) and self.nouns.column(g.key).is_measure)]
        # A period or a group is the subject: "the busiest weekday", "best month".
        if subject is None and groups and not (by is not None and not quantities):
            head = self._head(draft, quantities, groups)
            quantity = quantities[0] if quantities else self._usual(draft, head, top)
            units = [g for g in groups if isinstance(g, m.PartOf)]
            within = 0
            if len(groups) == 2 and units and (self._each(draft) or self._is_led_by_a_unit(draft)):
                # The busiest hour of each clinic, the best month of each year: the first is of every other.
                finest = min(units, key=lambda u: _FINENESS.index(u.unit) if u.unit in _FINENESS else 0)
                groups, within = [*(g for g in groups if g != finest), finest], 1
            return m.Ask(
                head,
                where,
                (quantity, *quantities[1:]),
                tuple(groups),
                order=(m.Order(quantity, top.descending),),
                limit=number,
                per=within,
            )
        if subject is None:
            if by is None and quantities and groups:
                return None
            if by is None and quantities:
                # The highest of one number is that number.
                return None
            head = self._head(draft, by) if by is not None else self._head(draft)
            expr = by if by is not None else self.nouns.main_measure(head)
            if expr is None or top.counts:
                return None
            if groups:
                quantity = self.nouns.aggregate(expr)
                return m.Ask(
                    head, where, (quantity,), tuple(groups), order=(m.Order(quantity, top.descending),), limit=number
                )
            if by is None:
                draft.cost("main measure", 0.25)
            said = {
                t for _, p in draft.of(Part) if p.kind in ("value", "number", "flag") for t in tables_of(p.condition)
            }
            if said and head not in said:
                # The cheapest flat in town is told by what stands on the flats.
                draft.cost("told by other rows", 0.3)
            return m.Ask(head, where, order=(m.Order(expr, top.descending),), limit=number)
        return self._ranked_subject(draft, top, subject, groups, quantities, where, number)

    @staticmethod
    def _each(draft: Draft) -> bool:
        """True where a group is said to be each of something."""
        return any(draft.says(i, ("each", "every", "per", "all")) for i, _ in draft.of(Grouped))

    @staticmethod
    def _is_led_by_a_unit(draft: Draft) -> bool:
        """True for the busiest month by clinic: one month of each."""
        tops = [i for i, _ in draft.of(Top)]
        units = [i for i, g in draft.of(Grouped) if isinstance(g.by, m.PartOf)]
        return any(i in (tops[0], tops[0] + 1) and draft.words[draft.edges[i].start] != "by" for i in units)

    @staticmethod
    def _by(draft: Draft) -> bool:
        """True where a group is told by nothing but "by"."""
        return any(draft.words[draft.edges[i].start].lower() == "by" for i, _ in draft.of(Grouped))

    def _is_money(self, key: m.ColumnKey) -> bool:
        """True for amounts of money, and for prices, which are averaged where nothing says that they are taken."""
        return self.nouns.column(key).role is Role.MONEY or self.nouns.vocabulary.columns[key].head in GENERIC_MONEY

    def _sold_below(self, table: str) -> str:
        """The sales of things that have a price and no takings themselves; the table itself for any other."""
        own = self.nouns.main_measure(table)
        if self.catalogue.table(table).time_column is not None or (
            own is not None and self.nouns.function(own) == "sum"
        ):
            return table
        return next((t for t in self.nouns.children(table) if self.nouns.takings(t) is not None), table)

    def _usual(self, draft: Draft, head: str, top: Top) -> m.Quantity:
        """What is most of when nothing is said: the count for busy, the main measure for best."""
        table = next((t for _, t in self._tables_named(draft)), None)
        if top.counts:
            return self.nouns.counted(table or self._doings_of(head))
        head = self._sold_below(head) if top.by is None else head
        expr = top.by if top.by is not None else self.nouns.main_measure(head)
        if expr is None:
            return self.nouns.counted(table or head)
        if top.by is None:
            if self.nouns.function(expr) != "sum" and not JUDGING & set(draft.words):
                return self.nouns.counted(table or head)
            draft.cost("main measure", 0.15)
        return self.nouns.aggregate(expr)

    def _held_of_one(self, draft: Draft, table: str) -> m.Col | None:
        """How many of one product there are is told by the stock of it, which stands on its one row."""
        named = [
            p.condition
            for _, p in draft.of(Part)
            if isinstance(p.condition, m.Is) and p.condition.column.table == table and len(p.condition.values) == 1
        ]
        if not any(self.nouns.tells_rows(c.column) for c in named):
            return None
        keys = (m.ColumnKey(table, c.name) for c in self.catalogue.table(table).columns if c.role is Role.QUANTITY)
        return next((m.Col(k) for k in keys if _STOCK & {*self.nouns.vocabulary.columns[k].parts}), None)

    def _in_stock(self, draft: Draft, table: str) -> m.Col | None:
        """What there is most of in the house is told by how many there are, and not by what they are worth."""
        if not _HOLDING & set(draft.words):
            return None
        for column in self.catalogue.table(table).columns:
            key = m.ColumnKey(table, column.name)
            if column.role is Role.QUANTITY and _STOCK & {*self.nouns.vocabulary.columns[key].parts}:
                return m.Col(key)
        return None

    def _is_one_row(self, draft: Draft, by: m.Col) -> bool:
        """True for the highest of what stands on each row, asked of whoever has it, and for no most of it together."""
        said = _ENDS & set(draft.words) and not _TOGETHER & set(draft.words)
        return "who" in draft.asks() and bool(said) and self.nouns.column(by.key).role is Role.MONEY

    def _ranked_subject(
        self,
        draft: Draft,
        top: Top,
        subject: Noun,
        groups: list[m.Expr],
        quantities: list[m.Quantity],
        where: tuple[m.Condition, ...],
        number: int,
    ) -> m.Ask | None:
        by = top.by
        rows_of = self._rows_named(subject)
        group = self.nouns.group(subject)
        if group is not None and group in groups:
            # "The longest wait by queue" says one column once.
            draft.cost("one group twice", 0.6)
        own_table = rows_of or (subject.key.table if subject.key is not None else None)
        if isinstance(by, m.Col) and own_table is not None and by.key.table != own_table:
            above = self.catalogue.path(own_table, by.key.table) is not None
            if above and self.nouns.main_measure(own_table) is not None:
                # The dearest contractor is told by what his jobs cost, and not by what stands far above them.
                draft.cost("told from above", 0.3)
        if subject.key is not None and (
            self.nouns.column(subject.key).type.is_time
            or self.nouns.is_amount(subject.key)
            or self.nouns.column(subject.key).role is Role.MONEY
            or (not (top.counts or quantities or "which" in draft.words) and self.nouns.column(subject.key).is_measure)
        ):
            # Nothing is most of a day or of an amount: periods are said as such.
            return None
        if draft.of(Versus) and not quantities and by is None and rows_of is not None:
            # What grew fastest did so in what is told of it period by period.
            told = [c for c in self.nouns.children(rows_of) if event_time(self.catalogue, c) is not None]
            told.sort(key=lambda c: c not in self.nouns.vocabulary.weights)
            grown = self.nouns.main_measure(told[0]) if told and told[0] not in self.nouns.vocabulary.weights else None
            if told and group is not None:
                quantities = [self.nouns.aggregate(grown) if grown is not None else self.nouns.counted(told[0])]
        if rows_of is not None and not quantities and not top.counts:
            expr = by if by is not None else self._in_stock(draft, rows_of) or self.nouns.main_measure(rows_of)
            if by is None and not self.nouns.has_total(rows_of) and self._with_money(rows_of) is not None:
                # The biggest customers are those who bought most, whatever else stands on them.
                expr = None
            own = expr is not None and all(self.catalogue.path(rows_of, t) is not None for t in tables_of(expr))
            if by is not None and not own and not self._is_below(rows_of, m.Compared("=", by, m.Number(0.0))):
                draft.cost("told by other rows", 0.3)
            elif isinstance(by, m.Col) and by.key.table != rows_of and by.key in self.nouns.dates:
                # The first visit is by its own date, and not by when the animal was born.
                draft.cost("told by other rows", 0.25)
            if own and expr is not None and not groups:
                if by is None:
                    draft.cost("main measure", 0.15)
                    if "who" in draft.asks() and _SO_MANY & set(draft.words):
                        # Who handles the most calls has most of them, and not the one that took longest.
                        draft.cost("most of them, by one", 0.5)
                if subject.key is not None and self.nouns.naming(rows_of) != m.Col(subject.key):
                    return m.Ask(
                        rows_of,
                        where,
                        shows=(m.Col(subject.key),),
                        order=(m.Order(expr, top.descending),),
                        limit=number,
                    )
                return m.Ask(rows_of, where, order=(m.Order(expr, top.descending),), limit=number)
            reached = all(self.catalogue.path(rows_of, t) is not None for g in groups for t in tables_of(g))
            said = top.number is not None or by is not None or self._each(draft)
            if own and expr is not None and groups and reached and said:
                shows = tuple(groups)
                return m.Ask(
                    rows_of, where, shows=shows, order=(m.Order(expr, top.descending),), limit=number, per=len(shows)
                )
        if group is None:
            return None
        if (
            isinstance(by, m.Col)
            and not quantities
            and not groups
            and top.number is None
            and self._is_one_row(draft, by)
        ):
            # Who had the highest bill had the one that is higher than all others.
            return m.Ask(by.key.table, where, shows=(group,), order=(m.Order(by, top.descending),), limit=number)
        quantity: m.Quantity
        if quantities:
            quantity = quantities[0]
        elif by is not None:
            quantity = m.Aggregated("mean", by) if top.typical else self.nouns.aggregate(by)
        elif top.counts:
            counted = rows_of is not None and self.nouns.children(rows_of)
            whose = subject.key.table if subject.key is not None and rows_of is None else None
            so = [t for c in where for t in tables_of(c) if whose not in (None, t)]
            table = (
                next((t for _, t in self._tables_named(draft) if t != rows_of), None)
                # Who pays late most often is told by how many payments were late.
                or next((t for t in so if self.catalogue.path(t, whose or t) is not None), None)
                or (self._done_to(draft, rows_of) if rows_of is not None else None)
                or (counted[0] if counted else None)
                or (self._liked_by(draft, subject.key.table, where) if subject.key is not None else self.nouns.facts[0])
            )
            quantity = self.nouns.counted(table)
        else:
            own_money = rows_of is not None and self.nouns.has_money(rows_of)
            lower = rows_of is not None and not own_money and self.nouns.children(rows_of)
            earning = self._with_money(rows_of) if rows_of is not None and not self.nouns.has_total(rows_of) else None
            table = earning or (
                lower[0] if lower else subject.key.table if subject.key is not None else self.nouns.facts[0]
            )
            peopled = subject.key is not None and self.nouns.is_of_people(table)
            beneath = self.nouns.children(table) if subject.key is not None and not (lower or peopled) else []
            if self.nouns.main_measure(table) is None and beneath:
                table = beneath[0]
            table = self._sold_below(table) if subject.key is not None and not peopled else table
            # The biggest class is the one with most pupils, whatever else is told of them.
            expr = None if peopled and _OF_SIZE & set(draft.words) else self.nouns.main_measure(table)
            added = expr is not None and (
                self.nouns.function(expr) == "sum" or bool(JUDGING & set(draft.words)) or self._is_performance(expr)
            )
            # The top three species are those of most animals, and not those that weigh most each.
            quantity = self.nouns.aggregate(expr) if expr is not None and added else self.nouns.counted(table)
            if isinstance(expr, m.Col) and _is_earned(draft) and self._is_money(expr.key):
                # What plans bring in is all of their prices together.
                quantity = m.Aggregated("sum", expr)
            draft.cost("main measure", 0.2)
        if (
            isinstance(quantity, m.Aggregated)
            and quantity.expr is None
            and rows_of is not None
            and quantity.table == rows_of
            and self.nouns.naming(rows_of) == group
        ):
            return None
        head = self._head(draft, quantity, group)
        asked = tuple(q for q in (quantity, *quantities[1:]))
        timed = [g for g in groups if g != group]
        thing = next((g for g in timed if isinstance(g, m.Col) and self.nouns.tells_rows(g.key)), None)
        if isinstance(group, m.Col) and isinstance(thing, m.Col) and thing.key.table == group.key.table:
            # Of properties with their address the properties are what there is most of.
            group, timed = thing, [*(g for g in timed if g != thing), group]
            return m.Ask(
                head, where, asked, (*timed[:-1], thing, timed[-1]), order=(m.Order(quantity, top.descending),),
                limit=number, per=len(timed) - 1,
            )  # fmt: skip
        if isinstance(group, m.Col) and self.nouns.names_rows(group.key):
            # An address beside the property it is of is no group to rank within.
            beside = [g for g in timed if isinstance(g, m.Col) and self._names_same(g.key, group.key)]
            return m.Ask(
                head,
                where,
                asked,
                (*(g for g in timed if g not in beside), group, *beside),
                order=(m.Order(quantity, top.descending),),
                limit=number,
                per=len(timed) - len(beside),
            )
        return m.Ask(
            head,
            where,
            asked,
            (*timed, group),
            order=(m.Order(quantity, top.descending),),
            limit=number,
            per=len(timed),
        )

    def _is_performance(self, expr: m.Expr) -> bool:
        """True for what somebody achieved: the top pupils are those with the best marks, and not with the most of them."""
        return isinstance(expr, m.Col) and bool(_PERFORMANCE & set(self.nouns.vocabulary.columns[expr.key].parts))

    def _done_to(self, draft: Draft, rows: str) -> str | None:
        """The rows that a verb of the question is about: the books borrowed most are those with most loans."""
        below = [t.name for t in self.catalogue.tables if t.name != rows and self.catalogue.path(t.name, rows)]
        verbs = [w for w in draft.words if w.endswith(("ed", "en")) or w in lexicon.verbs()]
        return next((t for t in below if any(self.nouns.is_about(t, v) for v in verbs)), None)

    def _with_money(self, table: str) -> str | None:
        """The table of what the rows of a table came to."""
        return next((c for c in self.nouns.children(table) if self.nouns.has_total(c)), None)

    def _names_same(self, one: m.ColumnKey, other: m.ColumnKey) -> bool:
        """True where two columns tell apart the rows of one table, or one points at the rows of the other."""
        if one.table == other.table:
            return self.nouns.names_rows(one)
        links = self.catalogue.relationships
        return any(r.table == one.table and r.column == one.column and r.other == other.table for r in links)

    # --- rows and values

    def _rows(self, draft: Draft, kinds: set[type]) -> m.Ask | None:
        """A list of rows with the columns that are named."""
        if any(a.what == "list" and draft.words[draft.edges[i].start] != "all" for i, a in draft.of(Asking)):
            # In a list, the number of households is what stands on each row.
            draft.items = tuple((i, _as_shown(v, draft.edges[i].category)) for i, v in draft.items)
            kinds = {type(v) for _, v in draft.items}
        if any(c.wish.kind == "dots" for _, c in draft.of(Charted)) and len(draft.of(Measured)) >= 2:
            # Coloured by species: each dot tells its own.
            draft.items = tuple(
                (i, v.by if isinstance(v, Grouped) and isinstance(v.by, Noun) else v) for i, v in draft.items
            )
            kinds = {type(v) for _, v in draft.items}
        if kinds & _WORKED_OUT:
            return None
        if any(c.wish.kind == "dots" for _, c in draft.of(Charted)) and len(draft.of(Measured)) >= 2:
            return self._points(draft)
        named = self._tables_named(draft)
        asks = draft.asks()
        nouns = draft.of(Noun)
        keyed = [(i, n) for i, n in nouns if n.key is not None and self.nouns.tells_rows(n.key)]
        where = self._conditions(draft)
        if not named and not keyed and not where and not draft.of(Held) and not draft.of(InEvery):
            return None
        if named:
            place, head = named[0]
            draft.used.add(place)
        elif keyed:
            head = keyed[0][1].key.table  # type: ignore[union-attr]
            draft.used.add(keyed[0][0])
        else:
            said = [p for _, p in draft.of(Part) if m.columns_in(p, nested=True)]
            nevers = [v.verb for _, v in draft.of(Never)] + [v.verb for _, v in draft.of(Lapsed)]
            if len(self.catalogue.tables) > 1 and not said and not draft.of(Held) and not nevers:
                # Nothing but a time and a word that no table is called.
                return None
            head = self._head(draft)
            if ("never" in draft.words or nevers) and "who" in draft.asks():
                # Who was never absent are the people without such rows, and not the rows of another kind.
                whose = self._person_of(head, buys=False)
                people = self._who_might_have(nevers[0])[0] if nevers else None
                head = people or (whose.table if whose is not None and whose.table is not None else head)
            owing = [c for c in where if isinstance(c, m.Compared) and isinstance(c.left, m.Arithmetic)]
            if "who" in draft.asks() and owing and owing[0].right == m.Number(0):
                # Who owes something is whoever the rows are of, by what all of theirs come to.
                whose = self._person_of(head, buys=True)
                group = self.nouns.group(whose) if whose is not None else None
                if group is not None:
                    kept, totals = self._kept_by_totals(draft, where, (group,))
                    return self._things(draft, group, kept, totals) if totals else None
            self._use_unknown(draft)
            if not any(n.unknown for _, n in nouns):
                draft.cost("unnamed rows", 0.15 if asks else 0.3)
        if not named and keyed and keyed[0][1].key is not None:
            chosen = m.Col(keyed[0][1].key)
            if self.nouns.naming(head) != chosen:
                draft.cost("naming", 0.05)
        group = self.nouns.naming(head)
        where = self._nearer(head, where)
        by_gaps = self._named_by_gaps(draft)
        where = tuple(
            c
            for c in where
            if not (isinstance(c, m.Not) and isinstance(c.item, m.Missing) and m.Col(c.item.column) in by_gaps)
        )
        where, named_above = self._above(head, where)
        named_above += [e for e in by_gaps if self.catalogue.path(head, e.key.table) is not None]
        weights = self.nouns.vocabulary.weights
        numbers = [c for c in where if isinstance(c, m.Has) and c.rows.table in weights]
        where = tuple(c for c in where if c not in numbers)
        more, having = self._holds(draft, head, (), group)
        below = [c for c in where if self._is_below(head, c)]
        having = (*having, *self._planned(draft, head))
        having += tuple(
            m.Having(
                dataclasses.replace(self.nouns.counted(c.rows.table), where=c.rows.where), c.op, m.Number(c.number)
            )
            for c in numbers
        )
        if below:
            kept, totals = self._kept_by_totals(draft, below, (group,) if group is not None else ())
            having = (*having, *totals)
            where = tuple(c for c in where if c not in below or c in kept)
        if having:
            return self._things(draft, group, (*where, *more), having) if group is not None else None
        shell = m.Ask(head, (*where, *more))
        shows = [*self._shown(draft, shell), *named_above]
        if not named and keyed and keyed[0][1].key is not None:
            shows.insert(0, m.Col(keyed[0][1].key))
        names = self.nouns.split_name(head)
        if names and not any(s in names for s in shows):
            shows = [*names, *shows]
        elif "who" in asks and (person := self._who_they_are(head)) is not None and person != self.nouns.naming(head):
            shows.insert(0, person)
            draft.cost("who as rows", 0.25)
        if "where" in asks:
            shows += self._where_they_are(draft, head, shows)
        if "when" in asks:
            dates = [s for s in shows if isinstance(s, m.Col) and self.nouns.column(s.key).type.is_time]
            known = [c.item.column for c in where if isinstance(c, m.Not) and isinstance(c.item, m.Missing)]
            done = next((k for k in known if self.nouns.column(k).type.is_time), None)
            time = self.catalogue.table(head).time_column
            if done is not None and not dates:
                # When it was paid is the day of that, which is known.
                shows.insert(0, m.Col(done))
            elif time is not None and not dates:
                shows.append(m.Col(m.ColumnKey(head, time.name)))
        measured = tuple(
            c.left
            for c in (*where, *more)
            if isinstance(c, m.Compared)
            and isinstance(c.right, m.Number)
            and not isinstance(c.left, m.EventTime)
            and all(self.catalogue.path(head, t) is not None for t in tables_of(c.left))
        )
        shows += [s for s in dict.fromkeys(measured) if s not in shows]
        unlike = [c for c in (*where, *more) if isinstance(c, m.Compared) and c.op == "!="]
        # Where two figures do not agree is shown with both of them.
        shows += [e for c in unlike for e in (c.left, c.right) if isinstance(e, m.Col) and e not in shows]
        if not asks and not named and not keyed:
            draft.cost("not asked", 0.1)
        if head in self.nouns.vocabulary.weights and "list" not in asks:
            draft.cost("rows of numbers", 0.5)
        if not where and not more and not shows and "list" not in asks:
            draft.cost("lists everything", 0.3)
        order = self.order(draft, (), shows, head)
        if any(not isinstance(o.by, (m.Col, m.EventTime, m.Arithmetic, m.Length, m.PartOf, m.Test)) for o in order):
            return None
        return m.Ask(head, (*where, *more), shows=tuple(shows), order=order, chart=self._chart(draft))

    def _with_whose(self, ask: m.Ask, draft: Draft) -> m.Ask:
        """Whose was it: with the person that the rows are of, and with everything that they point at."""
        tops = {i for i, _ in draft.of(Top)}
        beside = [m.Col(n.key) for i, n in draft.of(Noun) if i in tops and n.key is not None]
        if ask.lists and beside:
            # The oldest boats with their owners: one piece says both.
            ends = (o.by for o in ask.order if not isinstance(o.by, m.Aggregated))
            table = self.catalogue.table(ask.head)
            # Mabel is called so beside her number, where two may be.
            called = [c for c in table.columns if c.type is Type.TEXT and "name" in name_parts(c.name)][:1]
            own = [m.Col(m.ColumnKey(ask.head, c.name)) for c in (table.naming_column, *called) if c is not None]
            ask = ask.but(shows=tuple(dict.fromkeys((*own, *ask.shows, *beside, *ends))))
        asked = any(
            one == "whose" and two in ("is", "was", "are", "were") for one, two in itertools.pairwise(draft.words)
        )
        if not asked or not ask.lists:
            return ask
        above = [self.nouns.naming(r.other) for r in self.catalogue.parents(ask.head)]
        whose = dict.fromkeys(name for name in (self.nouns.person(ask.head), *above) if name is not None)
        return ask.but(shows=(*(name for name in whose if name not in ask.shows), *ask.shows))

    def _where_they_are(self, draft: Draft, head: str, shows: list[m.Expr]) -> tuple[m.Expr, ...]:
        """The place of rows; where nothing tells one, the word that asks for it is not answered."""
        place = self.nouns.place(head)
        if place is None:
            told = any(isinstance(c, m.Is) for _, p in draft.of(Part) for c in m.parts(p.condition))
            for i, asking in draft.of(Asking):
                if asking.what == "where" and not told and not shows:
                    draft.lost.add(draft.edges[i].start)
            return ()
        return () if place in shows else (place,)

    def _above(self, head: str, where: tuple[m.Condition, ...]) -> tuple[tuple[m.Condition, ...], list[m.Expr]]:
        """Visits with their owner: what rows belong to is no condition, and is shown."""
        kept: list[m.Condition] = []
        shows: list[m.Expr] = []
        for condition in where:
            match condition:
                case m.Has(rows=m.Rows(table=table, where=()), op=">=", number=1) if (
                    table != head and self.catalogue.path(head, table) is not None
                ):
                    name = self.nouns.naming(table)
                    shows += [name] if name is not None else []
                case _:
                    kept.append(condition)
        return tuple(kept), shows

    def _is_below(self, head: str, condition: m.Condition) -> bool:
        """True for a condition on rows that point at those of a table."""
        tables = tables_of(condition)
        return bool(tables) and any(
            self.catalogue.path(head, t) is None and self.catalogue.path(t, head) is not None for t in tables
        )

    def _planned(self, draft: Draft, head: str) -> Iterator[m.Having]:
        """Campaigns that reached their target: what was planned stands on them, what came of it is added up below."""
        for i, reached in draft.of(Reached):
            planned = reached.planned.expr
            came = self.nouns.came_below(planned)
            if isinstance(planned, m.Col) and planned.key.table == head and came is not None:
                draft.used.add(i)
                yield m.Having(came, reached.op, m.Aggregated("max", planned))

    def _where_most(self, ask: m.Ask, draft: Draft) -> m.Ask | None:
        """The places by how many rows there are in each, or by what these come to; none where nothing says where."""
        if any(isinstance(g, m.Col) and self.nouns.column(g.key).role is Role.PLACE for g in ask.groups):
            return ask
        (_, top), *_ = draft.of(Top)
        counted = [n.table for _, n in draft.of(Noun) if n.table is not None]
        counted += [c.noun.table for _, c in draft.of(Counted) if c.noun.table is not None]
        rows = top.noun.table if top.noun is not None else next(iter(counted), ask.head if ask.lists else None)
        if rows is None:
            return None
        above = (link.other for link in self.catalogue.parents(rows))
        place = next((p for t in (rows, *above) if (p := self.nouns.place(t)) is not None), None)
        if place is None:
            return None
        quantity = self.nouns.counted(rows) if top.by is None else self.nouns.aggregate(top.by)
        first = 1 if "the" in draft.words else None
        order = (m.Order(quantity, top.descending),)
        return m.Ask(rows, ask.where, (quantity,), (place,), order=order, limit=first, chart=ask.chart)

    def _points(self, draft: Draft) -> m.Ask | None:
        """One point a row: two measures against each other, and what they are told apart by."""
        measured = draft.of(Measured)
        head = self._head(draft, [v.expr for _, v in measured])
        draft.used.update(i for i, _ in (*measured, *draft.of(Marker)))
        draft.used.update(i for i, t in self._tables_named(draft) if t == head)
        named = [(i, n) for i, n in draft.of(Noun) if n.key is not None]
        draft.used.update(i for i, _ in named)
        shows = [*(v.expr for _, v in measured), *(m.Col(n.key) for _, n in named if n.key is not None)]
        return m.Ask(head, self._conditions(draft), shows=tuple(dict.fromkeys(shows)), chart=self._chart(draft))

    def _values(self, draft: Draft, kinds: set[type]) -> m.Ask | None:
        """The different values of a column: which regions, who, what kinds."""
        if kinds & {*_WORKED_OUT, Measured}:
            return None
        asks = draft.asks()
        nouns = [(i, n) for i, n in draft.of(Noun) if n.key is not None]
        nouns = [
            (i, n)
            for i, n in nouns
            if n.key is not None and not self.nouns.is_amount(n.key) and not self.nouns.column(n.key).type.is_time
        ]
        where = self._conditions(draft)
        if nouns:
            i, noun = nouns[0]
            draft.used.add(i)
            assert noun.key is not None
            group: m.Expr = m.Col(noun.key)
            if self.nouns.tells_rows(noun.key):
                draft.cost("every row its own", 0.2)
            before = [j for j, _ in self._tables_named(draft) if j < i]
            if before:
                draft.cost("rows named first", 0.35)
            those = any(a.what == "who" for j, a in draft.of(Asking) if j == i + 1)
            told = self.nouns.column(noun.key)
            sure = those and draft.edges[i].score >= _SURELY_SO
            if sure and told.type is Type.TEXT and told.role is not Role.LINK and not self.nouns.tells_rows(noun.key):
                # "Customers who rented a van" are each of them once, and no rentals.
                draft.cost("each of those", -0.36)
            elif not asks:
                draft.cost("not asked", 0.15)
            if "when" in asks and len(set(asks)) > 1:
                # When it was, and who did it, asks for two things.
                draft.cost("several things asked", 0.6)
            if self.nouns.column(noun.key).role in (Role.IDENTIFIER, Role.TEXT):
                draft.cost("values of a key", 0.2)
        elif asks and asks[0] in ("who", "where"):
            head = self._head(draft)
            asked = self.nouns.place(head)
            if asks[0] == "who":
                done = self._what_was_done_with(draft, head)
                has = (c.item if isinstance(c, m.Not) else c for c in where)
                held = next((c.rows.table for c in has if isinstance(c, m.Has) and c.rows.table != head), None)
                above = self._far_above(held) if held is not None else []
                own = next((t for t in above if self.nouns.is_of_people(t)), None)
                if own is not None:
                    # Who had ten absences are the pupils whose absences these are.
                    return m.Ask(own, where, chart=self._chart(draft))
                taught = self._taught_by(head, buys=not {*_DOING, *_TEACHES} & set(draft.words))
                if taught is not None and taught.table is not None:
                    more, _ = self._holds(draft, head, (), None)
                    return m.Ask(taught.table, (m.Has(m.Rows(head, (*where, *more))),), chart=self._chart(draft))
                whose = self._person_of(done, buys=not _DOING & set(draft.words)) if done != head else None
                if whose is not None and whose.table is not None:
                    return m.Ask(whose.table, (m.Has(m.Rows(done, where)),), chart=self._chart(draft))
                person = m.Col(whose.key) if whose is not None and whose.key is not None else self.nouns.person(head)
                asked = None if self.nouns.split_name(head) else person
            if asked is None:
                return None
            group = asked
        else:
            return None
        head = tables_of(group)[0]
        tables = [t for c in where for t in tables_of(c)]
        lowest = lowest_table(list(dict.fromkeys([head, *tables])), self.catalogue)
        named = self._tables_named(draft)
        for j, table in named:
            if self.catalogue.path(table, head) is not None:
                lowest = table
                draft.used.add(j)
        more, having = self._holds(draft, head, (), group)
        where, totals = self._kept_by_totals(draft, where, (group,))
        having = (*having, *totals)
        kept, counted = self.counts_of_groups((*where, *more), [group], ())
        quantities = tuple(h.quantity for h in (*having, *counted))
        if not quantities and any(c.wish.kind == "pie" for _, c in draft.of(Charted)):
            # A pie of kinds shows how many there are of each.
            quantities = (self.nouns.counted(lowest or head),)
        theirs = self._of_theirs(draft, (group,))
        told_too = {m.Not(m.Missing(e.key)) for e in theirs}
        return m.Ask(
            lowest or head,
            tuple(c for c in kept if c not in told_too),
            quantities,
            (group, *theirs),
            having=(*having, *counted),
            order=self.order(draft, quantities, (), head),
            chart=self._chart(draft),
        )


_THEN = frozenset(["then", "ties", "equal", "equals"])
_MONTHLY = frozenset(["month", "months", "monthly", "mom"])
