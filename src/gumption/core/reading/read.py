"""A question to ranked readings: the one entry into this package."""

from __future__ import annotations

import contextlib
import dataclasses
import datetime as dt
import difflib
import functools
import itertools
import logging
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Literal

from gumption.core.model.catalogue import Catalogue
from gumption.core.model.lesson import Lesson
from gumption.core.model.names import plain, spaced
from gumption.core.model.term import Term
from gumption.core.plan.fields import PlanError
from gumption.core.plan.steps import Join, Plan, all_steps
from gumption.core.plan.typing import schema_of
from gumption.core.plan.words import DAY_NAMES, MONTH_NAMES, spoken
from gumption.core.reading import lexicon
from gumption.core.reading.about import told_about
from gumption.core.reading.agreement import disagreements, unmodelled
from gumption.core.reading.asides import named_here, with_hours, without_asides
from gumption.core.reading.assemble import (
    Apart,
    Assembler,
    Bar,
    Candidate,
    chart_of,
    sequences,
    without_a_piece,
    word_weight,
)
from gumption.core.reading.batteries import with_batteries
from gumption.core.reading.clustering import clusters_of, numbers_named
from gumption.core.reading.comparing import compared_of, holds_rows_together, related_of, together_of
from gumption.core.reading.derivations import bases
from gumption.core.reading.describing import described_of
from gumption.core.reading.flow import CannotPlan
from gumption.core.reading.follow import edits
from gumption.core.reading.foretelling import forecast_of
from gumption.core.reading.glossing import ROWS, Gloss, bare_glosses, glosses_of, leaves
from gumption.core.reading.going_with import goes_with_of
from gumption.core.reading.grammar import Edge
from gumption.core.reading.judgement import NOTHING_KNOWN, Evidence, confidence, doubtful, ranked_score, signs
from gumption.core.reading.lacking import Missed, tells_its_rows
from gumption.core.reading.learned import Lessons, wording_of
from gumption.core.reading.links import MOST, Linker
from gumption.core.reading.looking import all_looks, look_of, main_table
from gumption.core.reading.lowering import plan_of
from gumption.core.reading.meaning import Aggregated, Ask, Col, ColumnKey, Is, PartOf, parts
from gumption.core.reading.measuring import by_other_figures, by_other_rows
from gumption.core.reading.pieces import Noun, Top
from gumption.core.reading.refer import referring
from gumption.core.reading.roles import as_taken, in_roles
from gumption.core.reading.rules import FOLLOWING, GRAMMAR
from gumption.core.reading.schema import Nouns
from gumption.core.reading.shared import as_told, with_shared
from gumption.core.reading.spelling import Speller, is_regular
from gumption.core.reading.studies import (
    Ahead,
    Alike,
    CannotStudy,
    Differs,
    InWords,
    Moved,
    Planner,
    StandsOut,
    Together,
    WhatWith,
    Wish,
    is_of_the_answer,
    is_told_to_group,
    wish_of,
)
from gumption.core.reading.suggesting import called
from gumption.core.reading.taking_apart import MOST_WAYS, change_of
from gumption.core.reading.terms import Held, Terms, spelled_out
from gumption.core.reading.times import is_short_unit
from gumption.core.reading.tokens import Token, stem, tokenise
from gumption.core.reading.unanswerable import unanswerable
from gumption.core.reading.vocabulary import Vocabulary, is_common, is_short_for, name_parts
from gumption.core.reading.weigh import weighed
from gumption.core.reading.wide import as_rows, laid_out
from gumption.core.reading.words import ask_words
from gumption.core.study.change import Change, pieces_plan
from gumption.core.study.clusters import Clusters
from gumption.core.study.compared import Compared
from gumption.core.study.described import Described
from gumption.core.study.forecast import Forecast
from gumption.core.study.goes_with import GoesWith
from gumption.core.study.look import Look
from gumption.core.study.related import Related
from gumption.core.study.studied import Study, study_words

log = logging.getLogger(__name__)

_HOW_MANY = frozenset(["how", "many", "much", "number", "amount", "total", "average", "show", "list", "what", "which"])
_VIEWS = frozenset(["breakdown", "split", "overview", "summary", "picture", "report", "view", "look", "spread", "mix"])
"""Words for a way to look at things, which are no thing that could be missing."""
_PUT_TOGETHER = frozenset(["average", "avg", "mean", "total", "median", "sum", "share", "percentage", "rate"])
"""Words that say that figures of groups are held against each other, and no columns of rows."""
_AVERAGING = frozenset(["average", "avg", "mean", "median", "total"])

TAUGHT_TRUST = 0.97
"""How sure a reading is that a person chose, or called right, for these words."""
SUGGESTED_TRUST = 0.7
"""How sure a question must be read to be put before a person."""
VAGUE_TRUST = 0.32
"""How sure at most a reading is of which was best, by what its reader took for a measure."""
_JUDGING = frozenset(["best", "worst", "better", "worse"])
_NAMES_OF_TIMES = frozenset(name.lower() for name in (*MONTH_NAMES, *DAY_NAMES))
_MEASURES = frozenset(["M", "MV", "E", "Q", "STATE", "COUNT", "SHARE"])
LINKED = frozenset(["T", "C", "D", "M", "MV", "F", "V", "E", "Q", "STATE", "K", "U", "BD"])
"""Categories of words that name something in the data."""
LONGEST_QUESTION = 2_000
MOST_WORDS = 60
MOST_READINGS = 4
"""Readings that are looked at; fewer are offered."""
CONSIDERED = 8
"""Candidates that are planned; more would cost more time than they bring."""
MOST_TRIED = 60
"""Candidates that are tried where few of the first can be planned."""
MATTERING, TYPED_MATTERING = 3, 2
"""Meanings that may become readings by what the data say of them; fewer while a question is typed, which shows one."""
TYPED_PATIENCE = 8
"""Ways to cover the words, one after the other, that may bring nothing better before no more are tried for what is typed."""
REDUCED = 6
"""Ways to cut a question into pieces that are tried with one piece left out."""


@dataclass(frozen=True)
class Reading:
    """One way to understand a question."""

    plan: Plan
    ask: Ask
    words: str
    glosses: tuple[Gloss, ...]
    unread: tuple[str, ...]
    score: float
    evidence: Evidence = NOTHING_KNOWN
    doubtful: bool = False
    follows: bool = False
    before: Reading | None = None
    """The reading of the question before, in a conversation."""
    vague: bool = False
    """True where the best or the worst of something is asked for and no word says by what."""
    stand_ins: tuple[str, ...] = ()
    """Words that nothing here is called, taken for the rows."""
    lacking: tuple[str, ...] = ()
    """What the question is of, and nothing here is."""
    wording: str = ""
    """The question's words without their values, by which a lesson on it is known."""
    lesson: Lesson | None = None
    """What a person taught of this reading of this wording."""
    terms: tuple[Term, ...] = ()
    """The house's own words in it."""
    study: Study | None = None
    """What is asked beyond the figure, of the rows that the plan gives."""

    @functools.cached_property
    def trust(self) -> float:
        """The chance that this is what was meant, by all that is known of it."""
        sure = confidence(signs(self.evidence))
        if self.lesson is None:
            return min(sure, VAGUE_TRUST) if self.vague else sure
        # A person said so; of another value of the same it is as good as said.
        return min(sure, 0.3) if self.lesson.kind == "wrong" else max(sure, TAUGHT_TRUST)

    def about(self, study: Study, plan: Plan) -> Reading:
        """This reading as one that goes beyond its figure, over the rows of a plan."""
        return dataclasses.replace(self, study=study, plan=plan, words=study_words(study))

    def taken_apart(self, change: Change, catalogue: Catalogue) -> Reading:
        """This reading as one about what moved its figure."""
        return self.about(change, pieces_plan(change, schema_of(change.way.grouped, catalogue)))

    def seen(
        self, gap: float | None, rows: int | None = None, *, switched: bool = False, empty: bool = False
    ) -> Reading:
        """This reading once others, and its answer, were looked at."""
        return dataclasses.replace(
            self, evidence=dataclasses.replace(self.evidence, gap=gap, rows=rows, switched=switched, empty=empty)
        )


@dataclass(frozen=True)
class Understanding:
    """All that came of reading a question: readings, best first, or why there is none."""

    status: Literal["answered", "asks", "declined", "told"]
    readings: tuple[Reading, ...] = ()
    problem: str = ""
    """Why there is none; of a question about the data themselves what they are."""
    doubt: bool = False
    glosses: tuple[Gloss, ...] = ()
    unread: tuple[str, ...] = field(default=())
    heard: int = 0
    """What its words could stand for, as one number: where it is the same beside other tables, so is the reading.

    0 where its rows are not named, so that they were chosen among all there are.
    """


_TURNING = frozenset(["out", "off", "over", "under", "up", "down", "not", "no"])
"""Small words that turn what stands beside them into something else."""
_HELD_AGAINST = ("vs", "versus", "v", "against")
_FIGURES = ("E", "M", "MV", "Q")
"""Categories of words that name what is measured."""
_SPLITTING = frozenset(["by", "per", "each"])
_A_SLIP = 0.85
"""How much alike two words are of which one is the other with a slip, by the letters that they share."""
_AS_LIKELY = 1.0
"""How much less likely another way of reading the words may be, and still be one to tell them by."""
_SURELY_NAMED = 0.7
"""How surely a word names something that was taken for a stranger in another way of reading."""
_BEING = ("is", "are", "was", "were")
_LETTERS = ("A", "I")
"""Letters that are words of their own."""


def _again(study: Study) -> Moved | Ahead | Differs | Together | StandsOut | WhatWith | Alike | InWords | None:
    """What a study asked, asked of another figure."""
    match study:
        case Change(supposed=supposed):
            return Moved(supposed)
        case Forecast(step=step, steps=steps, whether=whether):
            return Ahead(steps, step, whether=whether)
        case Compared():
            return Differs()
        case Look():
            return StandsOut()
        case GoesWith():
            return WhatWith()
        case Clusters():
            return Alike()
        case Described():
            return InWords()
        case Related(each=each):
            return Together(grouped=True, told=True) if each else None


def _heard(tokens: list[Token], terminals: list[Edge]) -> int:
    return hash((tuple(tokens), frozenset(terminals)))


def _tables_of(value: object) -> set[str]:
    """The tables that a word stands for, or for something of."""
    return {p.table for p in parts(value) if isinstance(p, (Noun, ColumnKey)) and p.table is not None}


def _is_vague(said: set[str], words: list[Edge], ask: Ask) -> bool:
    """True where the best or the worst is asked for, and no word says by what; a month is best by its total."""
    told = "by" in said or any(word.category in _MEASURES for word in words)
    # What sells best, or is rated best, is said in two words.
    told = told or any(isinstance(w.value, Top) and w.value.by is not None and w.end - w.start == 2 for w in words)
    # A rate of those that something holds for is said, however it ranks.
    told = told or any(isinstance(p, Is) for p in parts(ask.quantities))
    timed = bool(ask.groups) and all(isinstance(g, PartOf) for g in ask.groups)
    return bool(_JUDGING & said) and not told and not timed


def _quoted(words: Iterable[str]) -> str:
    return ", ".join(f"“{w}”" for w in words)


def _refused(problem: str, ranked: list[Reading]) -> Understanding:
    """What is declined, with what is near; a word taken for the rows is one that was not read."""
    first = ranked[0]
    glosses = tuple(
        dataclasses.replace(g, kind="unread", note="not read") if g.note == ROWS else g for g in first.glosses
    )
    unread = tuple(dict.fromkeys((*first.unread, *first.stand_ins)))
    return Understanding("declined", problem=problem, glosses=glosses, unread=unread, readings=tuple(ranked))


def _asked_back(ranked: list[Reading]) -> Understanding:
    """Rows are asked for by a name that nothing has: which of those that are there are meant is for the person to say."""
    missed = ranked[0].lacking
    problem = f"Nothing here is called {_quoted(missed)}. Which of these is meant, if any?"
    refused = _refused(problem, ranked)
    return dataclasses.replace(refused, status="asks") if len(ranked) > 1 else refused


_LISTING = frozenset(
    ["list", "show", "which", "who", "whose", "give", "display", "see", "name", "names", "find", "get"]
)
_LEANING = frozenset(
    ["same", "that", "it", "this", "those", "them", "filter", "any", "not", "without", "likewise", "again", "there", "only",
     "for", "and", "what", "how"]
)  # fmt: skip


def _either_way(one: Candidate, other: Candidate) -> Candidate:
    """One meaning that two ways of reading the words come to: the likelier, by the words of the other where that
    takes none for another."""
    likelier, less = (one, other) if one.score >= other.score else (other, one)
    if likelier.score - less.score > _AS_LIKELY or less.unread != likelier.unread:
        return likelier
    stood_in = {leaf.start for edge in likelier.edges for leaf in leaves(edge) if leaf.category == "U"}
    if not stood_in:
        return likelier
    words = (leaf for edge in less.edges for leaf in leaves(edge) if leaf.category != "U")
    named = {p for leaf in words if leaf.score >= _SURELY_NAMED for p in range(leaf.start, leaf.end)}
    return dataclasses.replace(likelier, edges=less.edges) if stood_in <= named else likelier


def _less_likely(candidate: Candidate, words: frozenset[str]) -> Candidate:
    """After another question, words that only say for what are seldom a list of their own."""
    ask = candidate.ask
    bare = ask.lists and ask.where and not ask.shows and not ask.order and ask.limit is None
    if not bare or _LISTING & words or not _LEANING & words:
        return candidate
    cost = ("a list of its own", -0.8)
    return dataclasses.replace(candidate, features=(*candidate.features, cost), score=candidate.score - 0.8)


def _stepped_back(tokens: list[Token], earlier: Reading) -> Understanding | None:
    """The question before the last again, or a fresh start, where that is all that is asked for."""
    words = tuple(t.lower for t in tokens if t.kind != "symbol" and t.lower not in lexicon.chatter())
    said = tuple(t.lower for t in tokens if t.kind != "symbol")
    steps = {lexicon.edits().get(told) for told in (words, said)}
    if "undo" in steps:
        if earlier.before is None:
            return Understanding("declined", problem="There is no question before this one to go back to.")
        return Understanding("answered", (earlier.before,), doubt=earlier.before.doubtful, glosses=bare_glosses(tokens))
    if "reset" in steps:
        return Understanding("told", problem="The next question stands by itself.")
    return None


@dataclass(frozen=True)
class _Asked:
    """A question as it is read: its tokens, what was put right in them, and what it follows on from."""

    tokens: list[Token]
    spelling: dict[int, str]
    as_of: dt.date
    earlier: Reading | None
    held: Held
    typed: bool = False
    """Whether it is still being typed."""

    @functools.cached_property
    def spelled_out(self) -> list[Token]:
        """The tokens with what each of the house's own words was said to mean."""
        return spelled_out(self.tokens, self.held.terms)


class QuestionReader:
    """Reads questions against one catalogue; build it once and keep it."""

    def __init__(self, catalogue: Catalogue, lessons: Iterable[Lesson] = (), terms: Iterable[Term] = ()) -> None:
        self.catalogue = catalogue
        self.lessons = Lessons(lessons)
        self.terms = Terms(terms)
        laid, self.wide = as_rows(catalogue)
        rated, self.batteries = with_batteries(laid)
        joined, self.shared = with_shared(rated)
        self.known, self.roles, columns = in_roles(joined)
        """The catalogue as questions are read against it: wide tables in rows, and a table for each role."""
        self.vocabulary = Vocabulary(self.known, columns, self.roles, frozenset(self.shared))
        self.nouns = Nouns(self.vocabulary) if catalogue.tables else None
        parts = {p for t in catalogue.tables for c in t.columns for p in name_parts(c.name)}
        self._name_parts = sorted(p for p in parts if len(p) > 2 and p.isalpha())
        self._capitals = {w for t in catalogue.tables for c in t.columns for w in re.findall(r"\b[A-Z]{2,}\b", c.name)}
        self._names = {plain(t.name) for t in catalogue.tables} | parts
        written = (name for t in catalogue.tables for name in (t.name, *(c.name for c in t.columns)))
        self._written: dict[str, list[str]] = {
            plain(name): words for name in written if len(words := re.findall(r"[^\W_]+", spaced(name))) > 1
        }
        """What names of several words are written as in one, and their words."""
        self._linkers: dict[dt.date, Linker] = {}
        self._apart = Apart(self.known)

    def read(
        self,
        question: str,
        as_of: dt.date,
        earlier: Reading | None = None,
        terms: Sequence[Term] = (),
        *,
        typed: bool = False,
    ) -> Understanding:
        """Readings of a question asked on a day; `earlier` is the reading that it follows on from.

        `terms` say what words of this question mean, and go before those of the workspace. While a question is typed
        the first reading is shown alone, and looked for no further than it is likely to be found.
        """
        if not question.strip():
            return Understanding("declined", problem="Type a question, such as “how many rows are there?”")
        if len(question) > LONGEST_QUESTION:
            return Understanding(
                "declined",
                problem=f"The question has {len(question):,} characters; ask in at most {LONGEST_QUESTION:,}.",
            )
        if not self.catalogue.tables:
            return Understanding("declined", problem="There is no table yet; bring in a file first.")
        try:
            held = self.terms.with_own(terms).held(self._asked(question), self.linker(as_of))
            tokens, spelling = self.mended(held.tokens)
            if not any(t.kind != "symbol" for t in tokens):
                return Understanding("declined", problem="There is no word in it that can be read.")
            if len(tokens) > MOST_WORDS:
                return Understanding(
                    "declined",
                    problem=f"The question has {len(tokens)} words; ask in at most {MOST_WORDS}, or as several questions.",
                    glosses=bare_glosses(tokens),
                )
            wish = wish_of(tokens, as_of, self._names)
            of_the_answer = earlier is not None and wish is not None and is_of_the_answer(wish, self._names)
            told = (
                told_about(tokens, self.catalogue, self.nouns, lambda asked: self._is_sure(asked, as_of))
                if self.nouns is not None and not of_the_answer
                else None
            )
            if told is not None:
                return Understanding("told", problem=told)
            beyond = unanswerable(tokens, self.nouns.vocabulary) if self.nouns is not None else None
            if beyond is not None:
                return Understanding("declined", problem=beyond, glosses=bare_glosses(tokens))
            stepped = _stepped_back(tokens, earlier) if earlier is not None else None
            asked = _Asked(tokens, spelling, as_of, earlier, held, typed)
            found = stepped or self._studied(asked, wish) or self._with_relations(self._understood(asked), as_of)
            return dataclasses.replace(found, glosses=held.glossed(found.glosses))
        except Exception:
            # Whatever is typed, a reading ends in an answer or a clear refusal, and the next question can be asked.
            log.exception("a question could not be read")
            return Understanding(
                "declined",
                problem="Something went wrong in reading this; the log has the details. Ask it in other words.",
                glosses=bare_glosses(tokenise(question)),
            )

    def _is_sure(self, question: str, as_of: dt.date) -> bool:
        """True for a question that can be put before a person."""
        found = self.read(question, as_of)
        return found.status == "answered" and not found.unread and found.readings[0].trust >= SUGGESTED_TRUST

    def _studied(self, asked: _Asked, wish: Wish | None) -> Understanding | None:
        """A question that goes beyond a figure, or follows one that does; None for any other."""
        if wish is None:
            before = asked.earlier.study if asked.earlier is not None else None
            about = _again(before) if before is not None else None
            if about is None:
                return None
            # What follows on changes the figure, and still asks for the same of it.
            found = self._understood(asked)
            first = found.readings[0] if found.readings else None
            if found.status != "answered" or first is None or not first.follows:
                return found
            if isinstance(about, StandsOut) and first.ask.groups:
                # Rows are looked at again, and figures by groups are what was asked for next.
                return found
            return self._about(found, Wish(asked.tokens, (), about), asked) or found
        if is_of_the_answer(wish, self._names):
            if asked.earlier is not None:
                same = dataclasses.replace(asked.earlier, follows=True, before=asked.earlier, glosses=())
                return self._about(Understanding("answered", (same,), doubt=same.doubtful), wish, asked)
            if not isinstance(wish.about, StandsOut):
                return None
            wish = dataclasses.replace(wish, tokens=self._main_rows(), of_all=True)
        if wish.of_kinds is not None and (tied := self._tied(wish.of_kinds, asked)) is not None:
            return tied
        of_how_many = not _PUT_TOGETHER & {t.lower for t in asked.tokens}
        if isinstance(wish.about, Together) and (not wish.about.told or of_how_many):
            plain = self._understood(asked)
            whole = not wish.about.told or not plain.unread
            if plain.status == "answered" and whole and holds_rows_together(plain.readings[0].ask):
                # Two columns of rows are held against each other row by row.
                return self._with_relations(plain, asked.as_of)
        places = {id(t): place for place, t in enumerate(asked.tokens)}
        spelling = {
            n: asked.spelling[places[id(t)]] for n, t in enumerate(wish.tokens) if places.get(id(t)) in asked.spelling
        }
        inner = self._understood(dataclasses.replace(asked, tokens=wish.tokens, spelling=spelling))
        if isinstance(wish.about, Alike) and wish.about.by_numbers:
            named = numbers_named(inner.readings[0].ask, self.nouns) if inner.readings and self.nouns else ()
            if set(inner.unread) - {"by"} or len(named) < 2:
                # Animals grouped by species are those of each species.
                return None
        if isinstance(wish.about, Together) and inner.unread:
            # What is no figure is read otherwise: how a fee varies with the reason is told by reasons.
            return None
        return self._about(inner, wish, asked)

    def _tied(self, wish: Wish, asked: _Asked) -> Understanding | None:
        """Whether two columns of kinds go together; None where the two sides are no such columns."""
        inner = self._understood(dataclasses.replace(asked, tokens=wish.tokens, spelling={}))
        first = inner.readings[0].ask if inner.readings else None
        if self.nouns is None or first is None or inner.status != "answered" or inner.unread or len(first.groups) != 2:
            return None
        kinds = [g for g in first.groups if isinstance(g, Col) and not self.nouns.column(g.key).is_measure]
        counted = all(isinstance(q, Aggregated) and q.function == "count" for q in first.quantities)
        return self._about(inner, wish, asked) if len(kinds) == 2 and counted else None

    def _main_rows(self) -> list[Token]:
        """The words for the rows that a question is about which names none."""
        return [dataclasses.replace(t, start=0, end=0) for t in tokenise(called(main_table(self.known)))]

    def _with_relations(self, found: Understanding, as_of: dt.date) -> Understanding:
        """Readings of a correlation with what else their rows say of it."""
        if found.status != "answered" or self.nouns is None:
            return found
        planner = Planner(self.nouns, lambda ask: self.plan_of(ask, as_of), as_of)
        readings = []
        for reading in found.readings:
            with contextlib.suppress(CannotPlan, PlanError):
                related = related_of(reading.ask, planner)
                if related is not None:
                    reading = dataclasses.replace(reading, study=related)
            readings.append(reading)
        return dataclasses.replace(found, readings=tuple(readings))

    def _about(self, found: Understanding, wish: Wish, asked: _Asked) -> Understanding | None:
        """What was read about a figure as readings that go beyond it; None where none of them can."""
        assert self.nouns is not None
        planner = Planner(self.nouns, lambda ask: self.plan_of(ask, asked.as_of), asked.as_of)
        readings: list[Reading] = []
        problem = ""
        for place, reading in enumerate(found.readings):
            try:
                beyond = self._beyond(reading, wish, planner, first=place == 0)
            except CannotStudy as error:
                problem = problem or str(error)
                if place == 0:
                    break
                continue
            except (CannotPlan, PlanError):
                continue
            if beyond is not None:
                said = (g for g in (*reading.glosses, *wish.glosses) if g.end > g.start)
                glosses = tuple(sorted(said, key=lambda g: g.start))
                readings.append(dataclasses.replace(beyond, glosses=glosses))
        if readings and found.status == "answered":
            return dataclasses.replace(found, readings=tuple(readings), glosses=readings[0].glosses)
        if problem:
            return Understanding("declined", problem=f"This cannot be told: {problem}.", glosses=found.glosses)
        return None

    def _beyond(self, reading: Reading, wish: Wish, planner: Planner, *, first: bool) -> Reading | None:
        match wish.about:
            case Moved():
                # Other readings than the first are only offered, and taken apart in the first way.
                carried = reading.before.ask.where if reading.follows and reading.before is not None else ()
                change = change_of(reading.ask, wish.about, planner, MOST_WAYS if first else 1, carried)
                return None if change is None else reading.taken_apart(change, self.catalogue)
            case Ahead():
                told = forecast_of(reading.ask, wish.about, planner)
                return None if told is None else reading.about(*told)
            case Differs():
                held = compared_of(reading.ask, wish.about, planner)
                return None if held is None else reading.about(*held)
            case Together():
                tied = together_of(reading.ask, wish.about, planner)
                return None if tied is None else reading.about(*tied)
            case StandsOut():
                look = look_of(reading.ask, planner)
                if look is None:
                    return None
                seen, plan = look
                return reading.about(all_looks(seen, planner) if wish.of_all else seen, plan)
            case WhatWith():
                with_it = goes_with_of(reading.ask, planner)
                return None if with_it is None else reading.about(*with_it)
            case Alike():
                alike = clusters_of(reading.ask, planner)
                return None if alike is None else reading.about(*alike)
            case InWords():
                told_of = described_of(reading.ask, planner)
                return None if told_of is None else reading.about(*told_of)

    def problem_of(self, term: Term, as_of: dt.date) -> str:
        """Why a word cannot mean what it is said to mean; empty where it can."""
        if not all(any(t.kind != "symbol" for t in tokenise(words)) for words in term.words):
            return "There is no word to give a meaning to."
        if term.text:
            word = term.words[0]
            own = Terms((*self.terms.all, term)).held(tokenise(word), self.linker(as_of))
            if [t.text for t in own.tokens] == [" ".join(t.lower for t in tokenise(word))]:
                # Its other words say one thing together.
                return ""
            found = self.read(term.text, as_of)
            unread = found.unread if found.status == "answered" else (term.text,)
            return f"{_quoted(unread)} is not understood here." if unread else ""
        names = {t.name: {c.name for c in t.columns} for t in self.catalogue.tables}
        if term.table and term.table not in names:
            return f"There is no table {term.table}."
        if term.column and term.column not in names.get(term.table, ()):
            return f"There is no column {term.column} in {term.table or 'the tables'}."
        return ""

    def plan_of(self, ask: Ask, as_of: dt.date) -> Plan:
        """The plan of a meaning over the tables as they are. Raises CannotPlan."""
        plan = as_taken(plan_of(ask, self.known, as_of, self.terms.called(self.linker(as_of))), self.roles)
        return laid_out(as_told(plan, self.shared), {**self.batteries, **self.wide})

    def look(self, table: str, as_of: dt.date) -> tuple[Look, Plan] | None:
        """What there is to look at in a table, and the plan of how many rows it has; None where nothing can be planned."""
        if self.nouns is None or table not in {t.name for t in self.known.tables}:
            return None
        planner = Planner(self.nouns, lambda ask: self.plan_of(ask, as_of), as_of)
        with contextlib.suppress(CannotPlan, PlanError):
            return look_of(Ask(table), planner)
        return None

    def linker(self, as_of: dt.date) -> Linker:
        """What finds the words of questions asked on a day."""
        if as_of not in self._linkers:
            self._linkers = {as_of: Linker(self.vocabulary, as_of)}
        return self._linkers[as_of]

    def candidates(
        self,
        tokens: list[Token],
        as_of: dt.date,
        earlier: Reading | None,
        meant: Mapping[str, Iterable[Edge]] = MappingProxyType({}),
    ) -> list[Candidate]:
        """Every meaning found, the best score first, each once; `meant` says what the house's own words stand for."""
        return self._meanings(tokens, self.linker(as_of).edges(tokens, meant), as_of, earlier, Bar(None))

    def heard(self, question: str, as_of: dt.date) -> int:
        """What the words of a question of its own could stand for, as it is told of what came of reading it."""
        held = self.terms.held(self._asked(question), self.linker(as_of))
        tokens, _ = self.mended(held.tokens)
        return _heard(tokens, self.linker(as_of).edges(tokens, held.edges))

    def _meanings(
        self,
        tokens: list[Token],
        terminals: list[Edge],
        as_of: dt.date,
        earlier: Reading | None,
        bar: Bar,
    ) -> list[Candidate]:
        """The meanings found that are not below the bar, the best score first."""
        assert self.nouns is not None
        chart = chart_of(tokens, terminals, GRAMMAR if earlier is None else FOLLOWING)
        assembler = Assembler(self.nouns, self.linker(as_of).ages)
        best: dict[Ask, Candidate] = {}
        words = frozenset(t.lower for t in tokens)
        whole = sequences(chart, tokens, self._apart)
        # A piece is only left out where all of them together mean nothing.
        for tried in (whole, [less for s in whole[:REDUCED] for less in without_a_piece(s, tokens)]):
            if best:
                break
            for sequence in tried:
                if bar.is_settled():
                    break
                if bar.is_above(sequence.score):
                    # Hardly anything speaks for a meaning beside its pieces.
                    continue
                found = list(assembler.candidates(sequence, tokens, bar))
                if earlier is not None:
                    found = [_less_likely(c, words) for c in found]
                    before = earlier.before.ask if earlier.before is not None else None
                    found += edits(assembler, earlier.ask, before, sequence, tokens)
                    found += referring(assembler, earlier.ask, sequence, tokens)
                for candidate in found:
                    known = best.get(candidate.ask)
                    best[candidate.ask] = candidate if known is None else _either_way(known, candidate)
                bar.raise_to(best.values())
        ranked = [self.lessons.weighed(weighed(c, self.nouns), tokens) for c in best.values()]
        return sorted(ranked, key=lambda c: -c.score)

    def _understood(self, asked: _Asked) -> Understanding:
        first, *rest = asked.tokens
        if is_told_to_group(asked.tokens, self._names) and any(t.lower == "by" for t in rest):
            # Group the visits by clinic: by is what says it.
            asked = dataclasses.replace(
                asked, tokens=[dataclasses.replace(first, lower="please", stem="please"), *rest]
            )
        terminals = self.linker(asked.as_of).edges(asked.tokens, asked.held.edges)
        found = self._of_terminals(asked, terminals)
        named = found.readings and any(found.readings[0].ask.head in _tables_of(edge.value) for edge in terminals)
        return dataclasses.replace(found, heard=_heard(asked.tokens, terminals)) if named else found

    def _of_terminals(self, asked: _Asked, terminals: list[Edge]) -> Understanding:
        tokens, as_of = asked.tokens, asked.as_of
        # What people have said brings up meanings from far behind.
        typed = asked.typed and not self.lessons
        mattering = TYPED_MATTERING if asked.typed else MATTERING
        bar = Bar(None if self.lessons else mattering, TYPED_PATIENCE if typed else None)
        readings, problems = self._planned(asked, terminals, bar)
        if not readings and bar.left_out:
            # Where none of the best can be planned one far behind may.
            readings, problems = self._planned(asked, terminals, Bar(None))
        ranked = sorted(readings.values(), key=lambda r: -r.score)[:MOST_READINGS]
        if ranked and ranked[0].vague and ranked[0].lesson is None:
            ranked = self._by_each_figure(ranked, as_of)
        if ranked and ranked[0].lacking and self.nouns is not None:
            others = self._told_by(ranked[0], by_other_rows(ranked[0].ask, self.nouns), as_of)
            ranked = [ranked[0], *others, *ranked[1:]][:MOST_READINGS]
        if not ranked:
            unread = tuple(t.text for t in tokens if word_weight(t) == 1.0 and t.kind == "word")
            why = problems[0] if problems else "nothing in it names a table, a column or a value"
            return Understanding(
                "declined", problem=f"This could not be read: {why}.", unread=unread, glosses=bare_glosses(tokens)
            )
        return self._judged(ranked, tokens)

    def _planned(self, asked: _Asked, terminals: list[Edge], bar: Bar) -> tuple[dict[Plan, Reading], list[str]]:
        """The best meanings by their plans, and why others have none."""
        problems: list[str] = []
        readings: dict[Plan, Reading] = {}
        for tried, candidate in enumerate(self._meanings(asked.tokens, terminals, asked.as_of, asked.earlier, bar)):
            if (len(readings) >= MOST_READINGS and tried >= CONSIDERED) or tried >= MOST_TRIED:
                break
            try:
                plan = self.plan_of(candidate.ask, asked.as_of)
                schema_of(plan, self.catalogue)
            except (CannotPlan, PlanError, RecursionError) as error:
                problems.append(error.clause if isinstance(error, PlanError) else str(error))
                continue
            except Exception:
                # One way to read it that fails inside takes no other with it.
                log.exception("a reading could not be planned")
                problems.append("something went wrong in planning it; the log has the details")
                continue
            if plan not in readings:
                readings[plan] = self._reading(candidate, plan, asked, others_behind=bar.left_out)
        return readings, problems

    def _by_each_figure(self, ranked: list[Reading], as_of: dt.date) -> list[Reading]:
        """Which is best, by each figure that there is; it is not vague where there is but one."""
        assert self.nouns is not None
        first = ranked[0]
        others = []
        for other in self._told_by(first, by_other_figures(first.ask, self.nouns), as_of):
            lesson = self.lessons.held(first.wording, other.ask)
            if lesson is not None and lesson.kind != "wrong":
                return [dataclasses.replace(other, lesson=lesson, doubtful=False), *ranked]
            others.append(other)
        if not others:
            return [dataclasses.replace(first, vague=False), *ranked[1:]]
        return [first, *others, *ranked[1:]][:MOST_READINGS]

    def _told_by(self, first: Reading, asks: Iterable[Ask], as_of: dt.date) -> Iterator[Reading]:
        """A reading told of something else, where that can be planned."""
        for ask in asks:
            try:
                plan = self.plan_of(ask, as_of)
                schema_of(plan, self.catalogue)
            except (CannotPlan, PlanError):
                continue
            yield dataclasses.replace(first, plan=plan, ask=ask, words=ask_words(ask, self.known))

    def _reading(self, candidate: Candidate, plan: Plan, asked: _Asked, *, others_behind: bool) -> Reading:
        tokens, earlier = asked.tokens, asked.earlier
        joins = sum(isinstance(step, Join) for step in all_steps(plan))
        unsaid = {p for p in candidate.unread if word_weight(tokens[p]) == 1.0}
        unsaid.update(unmodelled(tokens, candidate.ask, follows=candidate.follows))
        named = {p for p in named_here(tokens) if not self._is_name(tokens[p].text, tokens)}
        if unsaid <= named:
            unsaid = set()
        unread = tuple(tokens[p].text for p in sorted(unsaid))
        lesson = self.lessons.of(candidate, tokens)
        words = [leaf for edge in candidate.edges for leaf in leaves(edge)]
        stand_ins = tuple(tokens[leaf.start].text for leaf in words if leaf.category == "U" and leaf.start not in named)
        lacking = () if candidate.follows else self._lacking(candidate, tokens, words, unsaid - named)
        if any(name == "never of what" and cost < 0 for name, cost in candidate.features):
            # What was never done is no verb that any rows are about.
            stand_ins += tuple(tokens[edge.end - 1].text for edge in candidate.edges if edge.category == "NEVER")
        return Reading(
            plan,
            candidate.ask,
            ask_words(candidate.ask, self.known),
            asked.held.glossed(glosses_of(tokens, candidate.edges, candidate.unread, asked.spelling, self.vocabulary)),
            unread,
            candidate.score + ranked_score((("joins", -0.06 * joins),)),
            Evidence(
                (*candidate.features, ("joins", -0.06 * joins)),
                sum(word_weight(t) == 1.0 for t in tokens),
                len(unread),
                tuple(leaf.score for leaf in words if leaf.category in LINKED),
                tuple(disagreements(asked.spelled_out, candidate.ask)),
                candidate.follows,
                earlier.trust if earlier is not None else 1.0,
                others_behind=others_behind,
            ),
            lesson is None
            and (bool(unread) or bool(stand_ins) or (candidate.follows and earlier is not None and earlier.doubtful)),
            candidate.follows,
            earlier,
            not candidate.follows and _is_vague({t.lower for t in tokens}, words, candidate.ask),
            stand_ins,
            lacking,
            wording_of(tokens, candidate.edges, candidate.follows),
            lesson,
            asked.held.terms,
        )

    def _lacking(
        self, candidate: Candidate, tokens: list[Token], words: list[Edge], unread: set[int]
    ) -> tuple[str, ...]:
        """What the question is of, and nothing here is."""
        assert self.nouns is not None
        head = self.nouns.vocabulary.tables.get(candidate.ask.head)
        # The rows of the only table there is may be called anything.
        told = head is not None and len(self.nouns.vocabulary.tables) > 1 and tells_its_rows(head.parts)
        stood_in = frozenset(leaf.start for leaf in words if leaf.category == "U") if told else frozenset()
        figures = frozenset(leaf.start for leaf in words if leaf.category in _FIGURES)
        missed = Missed(tokens, frozenset(unread), stood_in, figures).lacking()
        # A slip in a table's name is no other name.
        names = name_parts(candidate.ask.head) if told else ()
        return tuple(
            tokens[p].text for p in missed if not difflib.get_close_matches(tokens[p].lower, names, 1, _A_SLIP)
        )

    def _judged(self, ranked: list[Reading], tokens: list[Token]) -> Understanding:
        first = ranked[0]
        problem = self._problem(first, tokens) if first.lesson is None else ""
        if problem:
            return _refused(problem, ranked)
        if first.lacking and first.lesson is None:
            return _asked_back(ranked)
        gap = first.score - ranked[1].score if len(ranked) > 1 else None
        first = first.seen(gap)
        return Understanding(
            "answered",
            (first, *ranked[1:]),
            doubt=first.doubtful or doubtful(first.trust),
            glosses=first.glosses,
            unread=first.unread,
        )

    def _problem(self, first: Reading, tokens: list[Token]) -> str:
        """Why the best reading is none to answer with: too much is not read, or what is asked for is not there."""
        content = sum(word_weight(t) == 1.0 for t in tokens)
        lost = len(first.unread) / max(content, 1)
        if lost > 0.5 or (lost >= 0.4 and len(first.unread) >= 2):
            said = [w for w in first.unread if w.lower() not in _SPLITTING]
            return f"Nothing here answers to {_quoted(said or first.unread)}."
        unknown = [w for w in first.unread if self._is_name(w, tokens)]
        if unknown:
            return f"{_quoted(unknown)} {'does' if len(unknown) == 1 else 'do'} not occur in these tables."
        if first.lacking and not set(first.lacking) <= {*first.stand_ins}:
            return f"There is no {_quoted(first.lacking)} in these tables."
        features = dict(first.evidence.features)
        silent = features.get("main measure", 0.0) < 0 or features.get("silent count", 0.0) < 0
        missing = [w for w in (*first.unread, *first.stand_ins) if silent and self._is_measured(w, tokens)]
        if silent or not first.ask.quantities:
            missing = missing or [w for w in first.unread[:1] if self._is_asked_for(w, tokens, first.ask)]
        for word in missing:
            if (table := self._stands_in(word)) is not None:
                return f"“{word}” stands in {table}, which nothing here brings together with what else is asked."
        return f"There is no {_quoted(missing)} in these tables." if missing else ""

    def _stands_in(self, word: str) -> str | None:
        """The table of the column that a word is the whole name of."""
        found = self.nouns.vocabulary.columns_for((stem(word),))[:1] if self.nouns is not None else []
        return spoken(found[0][1].table) if found and found[0][0] >= 0.97 else None

    @staticmethod
    def _is_measured(word: str, tokens: list[Token]) -> bool:
        """True for what was to be averaged or added up: without it the answer would be of something else."""
        place = next((i for i, t in enumerate(tokens) if t.text == word), 0)
        return bool(_AVERAGING & {t.lower for t in tokens[max(place - 3, 0) : place]})

    @staticmethod
    def _is_asked_for(word: str, tokens: list[Token], ask: Ask) -> bool:
        """True for the thing itself that a question begins with, such as the crime in crime per district."""
        place = next((i for i, t in enumerate(tokens) if t.text == word), 0)
        before = [t for t in tokens[:place] if word_weight(t) == 1.0 and t.lower not in _HOW_MANY]
        after = tokens[place + 1].lower if place + 1 < len(tokens) else ""
        split = after in ("per", "by", "of", "for", "in", "at")
        noun = tokens[place].kind == "word" and not word.lower().endswith(("ed", "ing", "ly"))
        return not before and split and noun and word.lower() not in _VIEWS and len(ask.quantities) < 2

    @staticmethod
    def _is_name(word: str, tokens: list[Token]) -> bool:
        """True for a word written as a name inside the question: leaving it out would answer for all the others too."""
        place = next((i for i, t in enumerate(tokens) if t.text == word), 0)
        return place > 0 and word[:1].isupper() and word[1:2].islower() and not is_common(tokens[place].stem)

    def _asked(self, question: str) -> list[Token]:
        """The tokens of what is asked, without what is said beside it."""
        tokens = with_hours(without_asides(tokenise(question), self._names))
        named = len(tokens) > 1 and tokens[0].lower in ("which", "who") and tokens[1].lower not in _BEING
        if not named or any(t.lower == "than" for t in tokens):
            return tokens
        # Which is busier, of all of them, is which is busiest.
        most = lexicon.superlatives()
        return [
            dataclasses.replace(t, lower=most[t.lower], stem=stem(most[t.lower]))
            if t.lower in most and before.lower in _BEING
            else t
            for before, t in zip([tokens[0], *tokens], tokens, strict=False)
        ]

    def _with_glued_values(self, tokens: list[Token]) -> list[Token]:
        """A value such as 3D as one word, though a number with a letter at it may be so many of a unit."""
        found: list[Token] = []
        for token in tokens:
            last = found[-1] if found else None
            if last is not None and last.kind == "number" and last.end == token.start and token.kind == "word":
                word = last.lower + token.lower
                if (stem(word),) in self.vocabulary.values:
                    found[-1] = Token(last.text + token.text, "word", last.start, token.end, word, stem(word))
                    continue
            found.append(token)
        return found

    def _apart_by_capitals(self, tokens: list[Token]) -> list[Token]:
        """A column's name as it stands in the file, LitresPlanned, or in one as litresplanned, in the words it is made of."""
        found: list[Token] = []
        for token in tokens:
            parts = self._parts_written(token) if token.kind == "word" else []
            at = token.start
            for part in parts:
                found.append(Token(part, "word", at, at + len(part), part.lower(), stem(part.lower())))
                at += len(part)
            if not parts:
                found.append(token)
        return found

    def _parts_written(self, token: Token) -> list[str]:
        """The words of a name that is written in one; none where a word of the language is written so."""
        word = token.text
        for many in ("", "s"):
            parts = self._written.get(token.lower.removesuffix(many))
            own = many or spaced(token.text) == token.text
            if parts is not None and not (own and (is_common(token.stem) or token.lower in lexicon.ideas())):
                ends = list(itertools.accumulate(len(p) for p in parts))
                return [
                    word[end - len(p) : end + (end == ends[-1]) * len(many)] for p, end in zip(parts, ends, strict=True)
                ]
        return []

    @staticmethod
    def _with_states(tokens: list[Token]) -> list[Token]:
        """The small words of "out of stock" say as much as its other one does."""
        found = list(tokens)
        for size in range(2, 6):
            for start in range(len(tokens) - size + 1):
                words = tuple(t.lower for t in tokens[start : start + size])
                if words in lexicon.states() and any(w not in lexicon.fillers() for w in words):
                    for place in range(start, start + size):
                        if words[place - start] in _TURNING:
                            found[place] = dataclasses.replace(found[place], meant=True)
        return found

    @functools.cached_property
    def speller(self) -> Speller:
        """What misspelled words are put right against; made when the first is met."""
        return self.vocabulary.speller(FOLLOWING.literals | {*MOST})

    def mended(self, tokens: list[Token]) -> tuple[list[Token], dict[int, str]]:
        """Tokens with misspelled words put right against the workspace's words, and what was put for which place."""
        tokens = self._with_states(self._apart_by_capitals(self._with_glued_values(tokens)))
        found, changes = list(tokens), {}
        known = self.vocabulary
        for place, token in enumerate(tokens):
            if token.text in _LETTERS and self._is_a_value(tokens, place):
                found[place] = dataclasses.replace(token, lower=token.text)
                continue
            if self._stands_for_a_value(token, tokens):
                # What IT spent is not what it spent.
                found[place] = dataclasses.replace(token, meant=True)
                continue
            if token.kind != "word" or token.lower in lexicon.fillers() or token.lower in lexicon.chatter():
                continue
            if token.lower in FOLLOWING.literals or token.lower in lexicon.verbs() or token.lower in lexicon.units():
                continue
            if is_short_unit(token.lower):
                continue
            if token.lower in known.known or (token.stem in known.known and is_regular(token.lower, token.stem)):
                continue
            bare = token.lower.removeprefix("un").removeprefix("-")
            if bare != token.lower and (stem(bare) in known.known or (token.lower.replace("-", ""),) in known.values):
                # Un-furnished is what is not furnished, and no slip for unfinished.
                continue
            if token.stem in known.partial or (token.stem,) in known.values:
                continue
            if token.text[:1].isupper() and place > 0:
                # A name that is not here may be a name all the same, but a month is a month.
                better = self.speller.mended(token.lower)
                if better is None or not (
                    better in _NAMES_OF_TIMES or (self.speller.is_own(better) and len(better) > 4)
                ):
                    continue
            if (short := self._short_of(token)) is not None:
                changes[place] = short
                found[place] = Token(token.text, "word", token.start, token.end, short, stem(short))
                continue
            familiar = token.stem in lexicon.concepts() or is_common(token.stem)
            if (familiar and is_regular(token.lower, token.stem)) or token.lower in lexicon.demonyms():
                continue
            if any((base,) in known.values for base in bases(token.lower)):
                continue
            better = self.speller.mended(token.lower)
            if better is not None:
                changes[place] = better
                found[place] = Token(token.text, "word", token.start, token.end, better, stem(better))
        return found, changes

    def _short_of(self, token: Token) -> str | None:
        """The part of a column's name that a word is written as there in short: mag for magnitude."""
        if any(score >= 0.6 for score, _ in self.vocabulary.columns_for((token.stem,))[:1]):
            return None
        return next((p for p in self._name_parts if is_short_for(p, token.lower)), None)

    def _stands_for_a_value(self, token: Token, tokens: list[Token]) -> bool:
        """True for a small word in capitals that is a value, or stands in a column's name, as it is written, in a question that is not all in capitals."""
        if token.lower not in lexicon.fillers():
            return False
        if (
            tokens[0] is token
            and token.text.istitle()
            and [t.lower for t in tokens[1:2]] in ([w] for w in _HELD_AGAINST)
        ):
            # Will vs Rose: a name that is a small word too.
            return any(token.stem == stem(v) for vs in self.vocabulary.values.get((token.stem,)).values() for v in vs)
        if len(token.text) < 2 or not token.text.isupper():
            return False
        spelled = token.text in self._capitals or any(
            token.text in values for values in self.vocabulary.values.get((token.stem,)).values()
        )
        return spelled and any(t.text.islower() for t in tokens)

    def _is_a_value(self, tokens: list[Token], place: int) -> bool:
        """True for a capital letter that is a small word too, and stands for a value: beside its column's name, or after "an"."""
        beside = tokens[max(place - 1, 0) : place + 2]
        after = place > 0 and tokens[place - 1].lower in ("an", "straight")
        words = {t.stem for t in beside}
        return any(
            tokens[place].text in values and (after or words & {stem(p) for p in name_parts(key.column)})
            for key, values in self.vocabulary.values.get((tokens[place].stem,)).items()
        )
