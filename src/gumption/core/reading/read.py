"""A question to ranked readings: the one entry into this package."""

from __future__ import annotations

import datetime as dt
import math
from dataclasses import dataclass, field
from typing import Literal

from gumption.core.model.catalogue import Catalogue
from gumption.core.plan.steps import Join, Plan
from gumption.core.plan.typing import PlanError, schema_of
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, date_words, plan_words, span_words, spoken
from gumption.core.reading.follow import merged, starts_follow_up
from gumption.core.reading.frame import CannotPlan, Frame
from gumption.core.reading.interpret import Interpretation, Interpreter
from gumption.core.reading.lexicon import AGGREGATE_WORDS, FILLERS
from gumption.core.reading.links import Chain, Link, chains, links_of, mended
from gumption.core.reading.passes.base import NotUnderstood
from gumption.core.reading.planner import plan_of
from gumption.core.reading.times import time_mentions
from gumption.core.reading.tokens import Token, tokenise
from gumption.core.reading.vocabulary import Vocabulary, is_common

LONGEST_QUESTION = 2_000
MOST_READINGS = 3
FAR = 1.5
"""How far behind in score a reading may be and still be offered."""
CLOSE = 0.06
"""How near in score a second reading must be, per content word, for the first to be doubted."""

GlossKind = Literal["measure", "column", "value", "time", "operation", "unread"]

_GLOSS: dict[str, GlossKind] = {
    "measure": "measure",
    "column": "column",
    "group": "column",
    "subject": "column",
    "value": "value",
    "time": "time",
    "operation": "operation",
    "number": "value",
}


@dataclass(frozen=True)
class Gloss:
    """Characters [start, end) of the question and what they were read as."""

    start: int
    end: int
    kind: GlossKind
    note: str


@dataclass(frozen=True)
class Reading:
    """One way to understand a question."""

    plan: Plan
    frame: Frame
    words: str
    glosses: tuple[Gloss, ...]
    unread: tuple[str, ...]
    score: float


@dataclass(frozen=True)
class Understanding:
    """All that came of reading a question: readings, best first, or why there is none."""

    status: Literal["answered", "asks", "declined"]
    readings: tuple[Reading, ...] = ()
    problem: str = ""
    doubt: bool = False
    glosses: tuple[Gloss, ...] = ()
    unread: tuple[str, ...] = field(default=())


class QuestionReader:
    """Reads questions against one catalogue; build it once and keep it."""

    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue
        self.vocabulary = Vocabulary(catalogue)

    def read(self, question: str, as_of: dt.date, earlier: Frame | None = None) -> Understanding:
        """Readings of a question asked on a day; `earlier` is the frame that it follows on from."""
        if not question.strip():
            return Understanding("declined", problem="Type a question, such as “how many rows are there?”")
        if len(question) > LONGEST_QUESTION:
            return Understanding(
                "declined",
                problem=f"The question has {len(question):,} characters; ask in at most {LONGEST_QUESTION:,}.",
            )
        if not self.catalogue.tables:
            return Understanding("declined", problem="There is no table yet; bring in a file first.")
        tokens, spelling = mended(tokenise(question), self.vocabulary)
        if not tokens:
            return Understanding("declined", problem="There is no word in it that can be read.")
        links = links_of(tokens, self.vocabulary, time_mentions(tokens, as_of))
        found: list[Reading] = []
        problems: list[str] = []
        for chain in chains(tokens, links):
            try:
                found.append(self._reading(question, tokens, chain, as_of, spelling, earlier))
            except (NotUnderstood, CannotPlan, PlanError) as error:
                problems.append(error.problem if isinstance(error, PlanError) else str(error))
        ranked = _ranked(found)
        if not ranked:
            unread = tuple(t.text for t in tokens if t.kind == "word" and t.lower not in FILLERS)
            why = problems[0] if problems else "nothing in it names a table, a column or a value"
            return Understanding(
                "declined", problem=f"This could not be read: {why}.", unread=unread, glosses=_bare_glosses(tokens)
            )
        return _judged(ranked, tokens)

    def _reading(
        self,
        question: str,
        tokens: list[Token],
        chain: Chain,
        as_of: dt.date,
        spelling: dict[int, str],
        earlier: Frame | None,
    ) -> Reading:
        found = Interpreter(chain.links, tokens, self.vocabulary, question, earlier)
        try:
            interpretation = found.interpret()
        except NotUnderstood:
            if earlier is None:
                raise
            interpretation = Interpretation(
                found.draft.frozen(), found.used, [i for i in range(len(chain.links)) if i not in found.used]
            )
        frame, penalty = interpretation.frame, interpretation.penalty
        if earlier is not None and starts_follow_up(tokens, frame):
            frame = merged(earlier, frame, tokens, self.catalogue)
        if earlier is not None and earlier.doubtful:
            frame = frame.with_(doubtful=True)
        plan = plan_of(frame, self.catalogue)
        schema_of(plan, self.catalogue)
        unread_links = [chain.links[i] for i in interpretation.unused if not _idle(tokens, chain.links[i])]
        places = sorted({*chain.unread, *(p for link in unread_links for p in range(link.start, link.end))})
        unread = tuple(tokens[p].text for p in places if tokens[p].lower not in FILLERS)
        if unread:
            frame = frame.with_(doubtful=True)
        joins = sum(isinstance(step, Join) for step in plan.steps)
        score = chain.score - 0.9 * sum(link.end - link.start for link in unread_links) - penalty - 0.05 * joins
        return Reading(
            plan, frame, plan_words(plan), _glosses(tokens, chain, interpretation, set(places), spelling), unread, score
        )


def _idle(tokens: list[Token], link: Link) -> bool:
    return all(t.lower in FILLERS for t in tokens[link.start : link.end])


def _ranked(found: list[Reading]) -> list[Reading]:
    """Best first, each plan once."""
    best: dict[Plan, Reading] = {}
    for reading in found:
        if reading.plan not in best or best[reading.plan].score < reading.score:
            best[reading.plan] = reading
    ordered = sorted(best.values(), key=lambda r: -r.score)
    return [r for r in ordered if ordered[0].score - r.score <= FAR][:MOST_READINGS]


def _judged(ranked: list[Reading], tokens: list[Token]) -> Understanding:
    first = ranked[0]
    content = [t for t in tokens if t.lower not in FILLERS]
    lost = len(first.unread) / max(len(content), 1)
    if lost > 0.5 or (lost >= 0.34 and len(first.unread) >= 2):
        words = ", ".join(f"“{w}”" for w in first.unread)
        return Understanding(
            "declined",
            problem=f"Nothing here answers to {words}.",
            glosses=first.glosses,
            unread=first.unread,
            readings=tuple(ranked),
        )
    unknown = [w for w in first.unread if _is_name(w, tokens)]
    if unknown:
        words = ", ".join(f"“{w}”" for w in unknown)
        problem = f"{words} {'does' if len(unknown) == 1 else 'do'} not occur in these tables."
        return Understanding(
            "declined", problem=problem, glosses=first.glosses, unread=first.unread, readings=tuple(ranked)
        )
    near = len(ranked) > 1 and first.score - ranked[1].score < CLOSE * math.sqrt(len(content) or 1)
    return Understanding(
        "answered", tuple(ranked), doubt=bool(near or first.frame.doubtful), glosses=first.glosses, unread=first.unread
    )


def _is_name(word: str, tokens: list[Token]) -> bool:
    """True for a word written as a name inside the question: leaving it out would answer for all the others too."""
    place = next((i for i, t in enumerate(tokens) if t.text == word), 0)
    return place > 0 and word[:1].isupper() and word[1:2].islower() and not is_common(tokens[place].stem)


def _bare_glosses(tokens: list[Token]) -> tuple[Gloss, ...]:
    return tuple(
        Gloss(t.start, t.end, "unread", "not read") for t in tokens if t.kind == "word" and t.lower not in FILLERS
    )


def _glosses(
    tokens: list[Token], chain: Chain, found: Interpretation, unread: set[int], spelling: dict[int, str]
) -> tuple[Gloss, ...]:
    glosses: list[Gloss] = []
    covered: set[int] = set()
    for place, link in enumerate(chain.links):
        role = found.roles.get(place)
        if role is None:
            continue
        kind = _GLOSS[role]
        if link.kind == "operation" and kind == "value":
            kind = "operation"
        note = _note(link, role)
        mends = [f"spelled {spelling[i]}" for i in range(link.start, link.end) if i in spelling]
        glosses.append(Gloss(tokens[link.start].start, tokens[link.end - 1].end, kind, "; ".join([note, *mends])))
        covered.update(range(link.start, link.end))
    for place in sorted(unread - covered):
        if tokens[place].lower not in FILLERS:
            glosses.append(Gloss(tokens[place].start, tokens[place].end, "unread", "not used"))
    return tuple(sorted(glosses, key=lambda g: g.start))


_OPERATION_NOTES = {
    "count": "count of rows",
    "distinct": "different values",
    "group": "for each",
    "negate": "not",
    "missing": "missing",
    "present": "known",
    "share": "each ÷ the total",
    "running": "running total",
    "change": "on the one before",
    "rank": "rank",
    "list": "show",
    "order": "order",
    "contains": "contains",
    "chart": "chart",
    "or": "and, or",
}


def _note(link: Link, role: str) -> str:
    if link.column is not None and link.kind == "value":
        shown = ", ".join(link.values[:2]) + ("…" if len(link.values) > 2 else "")
        return f"{link.column.table}.{link.column.column} = {shown}"
    if link.column is not None:
        return f"{link.column.table}.{link.column.column}"
    if link.table is not None:
        return f"{spoken(link.table)}" + (", counted" if role == "measure" else "")
    if link.span is not None:
        return _span_note(link)
    if link.number is not None:
        return f"{link.number:,.10g}"
    if link.operation is None:
        return link.text
    operation = link.operation
    if operation.kind == "superlative":
        return "highest first" if operation.descending else "lowest first"
    if operation.kind in ("aggregate", "compare", "unit"):
        return AGGREGATE_WORDS.get(operation.what, operation.what.replace("_", " "))
    return _OPERATION_NOTES.get(operation.kind, operation.kind)


def _span_note(link: Link) -> str:
    span = link.span
    assert span is not None
    if span.part == "month":
        return ", ".join(MONTH_NAMES[n - 1] for n in span.numbers) + " of any year"
    if span.part == "weekday":
        return ", ".join(DAY_NAMES[n - 1] for n in span.numbers)
    if span.part == "quarter":
        return f"quarter {span.numbers[0]} of any year"
    if span.low and span.high:
        return span_words(span.low, span.high).removeprefix("in ").removeprefix("on ").removeprefix("from ")
    return f"from {date_words(span.low)}" if span.low else f"up to {date_words(span.high)}" if span.high else ""
