"""What questions of a workspace are worked on: its tables, its reader and its engine, without records or requests."""

from __future__ import annotations

import datetime as dt
import itertools
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from gumption.core.model.catalogue import Catalogue, Table
from gumption.core.model.files import FileReading
from gumption.core.model.lesson import Lesson, LessonKind
from gumption.core.model.style import Style, style_now
from gumption.core.model.term import Term
from gumption.core.model.wish import ChartWish
from gumption.core.plan.steps import Plan, tables_of
from gumption.core.reading.briefs import Brief, brief_of
from gumption.core.reading.completing import Completer
from gumption.core.reading.learned import Lessons, shape_of
from gumption.core.reading.read import SUGGESTED_TRUST, QuestionReader, Reading, Understanding
from gumption.core.reading.suggesting import going_on, worth_asking_of
from gumption.core.reading.terms import Terms
from gumption.core.study.studied import Study
from gumption.engines.answering import Answered, Answerer
from gumption.engines.choosing import chosen, says_nothing, taken
from gumption.engines.duck import DuckEngine
from gumption.engines.kept import Kept
from gumption.engines.limits import Limits, Stop
from gumption.store.records import TrailEntry

MOST_EXAMPLES = 5
MOST_NEXT = 3
_KEPT_READINGS = 2_000
_KEPT_QUESTIONS = 1_000
_KEPT_TYPED = 50
_KEPT_ROWS = 500
"""Rows of an answer up to which it is kept to be given again."""

Chain = tuple[TrailEntry, ...]
"""Questions of the trail, each of which the next one follows, the oldest first."""
_Asked = tuple[str, Chain, dt.date, tuple[Term, ...]]
_Told = tuple[Plan, dt.date, ChartWish | None, Study | None, bool, Style]


@dataclass(frozen=True)
class Taught:
    """What people said of wordings and words."""

    lessons: tuple[Lesson, ...] = ()
    terms: tuple[Term, ...] = ()


@dataclass(frozen=True)
class Opening:
    """All that a desk is made of."""

    catalogue: Catalogue
    parquet: dict[str, Path]
    readings: dict[str, FileReading]
    taught: Taught
    limits: Limits
    scratch: Path | None = None
    """A folder for rows that do not fit into memory."""


class Desk:
    """Reads and answers questions over tables as they are at one time; a change makes another desk."""

    def __init__(self, opening: Opening, earlier: Desk | None = None) -> None:
        """What an `earlier` desk knows of tables that are the same in this one is kept."""
        self.opening, self.catalogue, self._taught = opening, opening.catalogue, opening.taught
        self.reader = QuestionReader(opening.catalogue, list(opening.taught.lessons), list(opening.taught.terms))
        self.completer = Completer(opening.catalogue)
        self.answerer = Answerer(
            opening.catalogue, DuckEngine(opening.parquet, opening.limits, opening.scratch), dict(opening.readings)
        )
        self._followed: Kept[tuple[TrailEntry, dt.date], Reading] = Kept(_KEPT_READINGS)
        """How answered questions of the trail are read, for what follows on from them."""
        self._understood: Kept[_Asked, Understanding] = Kept(_KEPT_QUESTIONS)
        self._typed: Kept[_Asked, Understanding] = Kept(_KEPT_TYPED)
        """How what is typed was read a key or two ago: a word that is not whole yet leaves what stood before it."""
        self._before: Kept[_Asked, Understanding] = Kept(_KEPT_QUESTIONS)
        """How questions were understood before the tables changed, as far as that may still hold."""
        self._answered: Kept[_Told, Answered] = Kept(_KEPT_QUESTIONS)
        if earlier is not None:
            self._take_over(earlier)

    def _take_over(self, earlier: Desk) -> None:
        same = _unchanged(earlier.opening, self.opening)
        self.answerer.take_over(earlier.answerer, same)
        for told, answered in earlier._answered.items():
            if same.issuperset(tables_of(answered.plan)):
                self._answered.put(told, answered)
        if earlier._taught != self._taught:
            return
        for asked, found in (*earlier._before.items(), *earlier._understood.items()):
            _, chain, _, terms = asked
            if (
                found.heard
                and not chain
                and not terms
                and same.issuperset(t for r in found.readings for t in tables_of(r.plan))
            ):
                self._before.put(asked, found)

    def warm(self, day: dt.date) -> None:
        """Read and look up something, which makes all that a first question needs."""
        if self.catalogue.tables:
            chosen(self.reader.read(f"how many {self.catalogue.tables[0].name}", day), self.answerer)

    def learn(self, taught: Taught) -> None:
        """Read by what people say now, earlier questions too."""
        self._taught = taught
        self.reader.lessons = Lessons(list(taught.lessons))
        self.reader.terms = Terms(list(taught.terms))
        self._followed.clear()
        self._understood.clear()
        self._typed.clear()
        self._before.clear()

    def reading_of(self, chain: Chain, day: dt.date) -> Reading | None:
        """The reading of the last question of a chain, read again with those it followed."""
        reading: Reading | None = None
        for entry in chain:
            if entry.by_hand:
                # What follows goes on from the question, whose words say what they do; steps changed by hand say nothing to it.
                continue
            # A question that is typed is read every few keys; those that it follows need it once.
            known = (entry, day)
            found = self._followed.get(known)
            if found is None:
                understanding = self._as_answered(entry, reading, day)
                found = understanding.readings[0] if understanding.readings else reading
                self._keep(entry, day, found)
            reading = found
        return reading

    def understood_entry(self, chain: Chain, day: dt.date) -> Understanding:
        """The last question of a chain as it was answered then, whatever was learned since."""
        earlier = self.reading_of(chain[:-1], day)
        found = self._as_answered(chain[-1], earlier, day)
        # What follows it is read the quicker for it.
        self._keep(chain[-1], day, found.readings[0] if found.readings else earlier)
        return found

    def _keep(self, entry: TrailEntry, day: dt.date, reading: Reading | None) -> None:
        """Keep how an answered question of the trail is read."""
        if entry.status == "answered" and reading is not None:
            self._followed.put((entry, day), reading)

    def _as_answered(self, entry: TrailEntry, earlier: Reading | None, day: dt.date) -> Understanding:
        read = self.reader.read(entry.question, day, earlier, entry.terms)
        found = chosen(read, self.answerer)
        told = next((r for r in (*found.readings, *read.readings) if r.words == entry.reading), None)
        if told is None and entry.choice is not None and found.readings:
            told = found.readings[min(entry.choice, len(found.readings) - 1)]
        if told is None or entry.status != "answered":
            return found
        same = bool(found.readings) and told.words == found.readings[0].words
        return replace(taken(found, told), doubt=found.doubt and same and entry.choice is None)

    def read(self, question: str, chain: Chain, day: dt.date, terms: Sequence[Term] = ()) -> Understanding:
        """A question as it is read while it is typed: its first reading, before any answer is looked at."""
        typed = question.rstrip()
        return self._typed.made(
            (typed, chain, day, tuple(terms)),
            lambda: self.reader.read(typed, day, self.reading_of(chain, day), terms, typed=True),
        )

    def understand(self, question: str, chain: Chain, day: dt.date, terms: Sequence[Term] = ()) -> Understanding:
        """A question with its readings in the order of trust."""
        asked = question, chain, day, tuple(terms)
        return self._understood.made(asked, lambda: self._as_before(asked) or self._chosen(*asked))

    def _as_before(self, asked: _Asked) -> Understanding | None:
        """How a question was understood before the tables changed, where its words could mean now just what they could then."""
        question, _, day, _ = asked
        known = self._before.get(asked)
        return known if known is not None and self.reader.heard(question, day) == known.heard else None

    def _chosen(self, question: str, chain: Chain, day: dt.date, terms: tuple[Term, ...]) -> Understanding:
        return chosen(self.reader.read(question, day, self.reading_of(chain, day), terms), self.answerer)

    def brief(self, text: str, day: dt.date) -> Brief:
        """A text as the questions that it asks, each with as much trust as it is answered with."""
        found = brief_of(text, self.reader, day)
        tasks = (replace(task, understanding=chosen(task.understanding, self.answerer)) for task in found.tasks)
        return replace(found, tasks=tuple(tasks))

    def answer_plan(
        self,
        plan: Plan,
        day: dt.date,
        *,
        stop: Stop,
        twice: bool = False,
        wish: ChartWish | None = None,
        study: Study | None = None,
    ) -> Answered:
        """The answer of a plan, or what a study says of it; a large one is worked twice only where that is asked for."""
        twice = twice or not self.answerer.waits(plan)
        asked = plan, day, wish, study, twice, style_now()
        found = self._answered.get(asked)
        if found is None:
            found = self.answerer.answer(plan, day, wish=wish, study=study, twice=twice, stop=stop)
            if len(found.rows) <= _KEPT_ROWS:
                self._answered.put(asked, found)
        return found

    def examples(self, table: Table, day: dt.date) -> list[str]:
        """Questions worth asking of a table, made from its own columns; each reads without a word left over."""
        asked = (t for t in worth_asking_of(table, self.catalogue) if self._shows_something(t, None, day))
        return list(itertools.islice(asked, MOST_EXAMPLES))

    def going_on(self, chain: Chain, day: dt.date) -> list[str]:
        """What may be asked next of the last question of a chain: each is surely read and has an answer of its own."""
        earlier = self.understood_entry(chain, day)
        nouns = self.reader.nouns
        if earlier.status != "answered" or nouns is None:
            return []
        reading = earlier.readings[0]
        asked = (t for t in going_on(reading.ask, nouns) if self._shows_something(t, reading, day))
        return list(itertools.islice(asked, MOST_NEXT))

    def _shows_something(self, question: str, earlier: Reading | None, day: dt.date) -> bool:
        """True for a question that is read without a doubt and whose answer is not empty."""
        found = chosen(self.reader.read(question, day, earlier), self.answerer)
        if found.status != "answered" or found.unread or found.readings[0].trust < SUGGESTED_TRUST:
            return False
        if self.answerer.waits(found.readings[0].plan):
            return True
        return not says_nothing(tuple(self.answerer.glance(found.readings[0].plan, 2)))


def _unchanged(before: Opening, now: Opening) -> frozenset[str]:
    """The tables that are the same in both, by themselves and by how they are related."""
    then = {t.name: t for t in before.catalogue.tables}
    same = {
        t.name
        for t in now.catalogue.tables
        if before.parquet.get(t.name) == now.parquet[t.name]
        and before.readings[t.name] == now.readings[t.name]
        and then[t.name] == t
    }
    between = [{r for r in o.catalogue.relationships if {r.table, r.other} <= same} for o in (before, now)]
    related = {name for r in between[0] ^ between[1] for name in (r.table, r.other)}
    return frozenset(same - related)


def lesson_of(kind: LessonKind, question: str, reading: Reading) -> Lesson:
    """What a person said of a reading, to be kept."""
    return Lesson(kind, question, reading.wording, shape_of(reading.ask), reading.words)
