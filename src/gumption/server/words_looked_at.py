"""What a house's own word does over the data: what kind of word it is, what it comes to, and which answers go by it."""

from __future__ import annotations

import datetime as dt
from collections import Counter
from collections.abc import Sequence
from typing import Any

from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.model.term import Term
from gumption.core.plan.words import spoken
from gumption.core.present.numbers import shown
from gumption.core.reading.meaning import PartOf
from gumption.core.reading.read import Reading, Understanding
from gumption.core.reading.terms import Terms
from gumption.core.reading.tokens import tokenise
from gumption.engines.answering import Answered
from gumption.engines.choosing import chosen
from gumption.engines.errors import CannotAnswer, WasStopped
from gumption.engines.limits import Stop
from gumption.server.desk import Desk
from gumption.server.schemas import GlossOut, TermKind, TermLookOut, TermUseOut, UnreadOut
from gumption.store.records import TrailEntry

MOST_USES = 12
"""Questions of the trail, the latest, that are worked again to see what a word would change."""
_LOOKED_AT = 40
"""Questions, the latest, in which words that were not understood are looked for."""


def look_at_term(desk: Desk, stop: Stop, term: Term, trail: Sequence[TrailEntry], day: dt.date) -> TermLookOut:
    """A word as it would be understood: checked, worked out, and held against what other words and answers say."""
    problem = desk.reader.problem_of(term, day)
    kind, value, share = ("other name", "", None) if problem else _comes_to(desk, stop, term, day)
    said = desk.reader.read(term.text, day) if term.text else None
    glosses = said.readings[0].glosses if said is not None and said.readings else said.glosses if said else ()
    return TermLookOut(
        problem=problem,
        kind=kind,
        value=value,
        share=share,
        chart=None if problem else _over_time(desk, stop, term, kind, day),
        glosses=[GlossOut(start=g.start, end=g.end, kind=g.kind, note=g.note) for g in glosses],
        clashes=_clashes(desk, term),
        uses=[] if problem else _uses(desk, stop, term, trail, day),
    )


def kinds_of_terms(desk: Desk, stop: Stop, terms: Sequence[Term], day: dt.date) -> dict[int, tuple[TermKind, str]]:
    """What kind of word each is, and what it comes to in brief."""
    found = {}
    for term in terms:
        kind, value, share = _comes_to(desk, stop, term, day)
        found[term.id] = kind, f"{100 * share:.1f}%" if share is not None else value if len(value) <= 24 else ""
    return found


def _comes_to(desk: Desk, stop: Stop, term: Term, day: dt.date) -> tuple[TermKind, str, float | None]:
    """The kind of a word, what it comes to over all rows, and of a condition the share of rows that meet it."""
    if not term.text:
        return ("other name", term.meaning, None) if term.table else ("left out", "", None)
    by_itself = _read(desk, term.words[0], term, day)
    reading = _answered(by_itself)
    if reading is not None and reading.ask.quantities and not (reading.ask.where and _says_no_figure(reading)):
        answered = _worked(desk, stop, reading, day)
        return "measure", _figure(answered), None
    counted = _answered(_read(desk, f"number of {term.words[0]}", term, day))
    if counted is not None and counted.ask.where:
        answered = _worked(desk, stop, counted, day)
        rows = desk.catalogue.table(counted.ask.head).rows
        fit = answered.rows[0][0] if answered is not None and answered.rows else None
        if isinstance(fit, int) and rows:
            return "condition", f"{written(fit)} of {plural(rows, 'row')} of {spoken(counted.ask.head)}", fit / rows
        return "condition", "", None
    return "columns", "", None


_SEVERAL = 3
"""Months from which on a line says something."""
_LOW = 130
"""The height of that line in pixels: it stands below a figure."""


def _over_time(desk: Desk, stop: Stop, term: Term, kind: TermKind, day: dt.date) -> dict[str, Any] | None:
    """A measure, or how many rows meet a condition, month by month, as a line; None where it has no time."""
    if kind not in ("measure", "condition"):
        return None
    asked = term.words[0] if kind == "measure" else f"number of {term.words[0]}"
    reading = _answered(_read(desk, f"{asked} by month", term, day))
    timed = reading is not None and any(isinstance(g, PartOf) and g.unit == "month" for g in reading.ask.groups)
    answered = _worked(desk, stop, reading, day) if reading is not None and timed else None
    if answered is None or answered.chart_kind != "line" or len(answered.rows) < _SEVERAL or answered.chart is None:
        return None
    return {**answered.chart, "height": _LOW}


def _read(desk: Desk, question: str, term: Term, day: dt.date) -> Understanding:
    return chosen(desk.reader.read(question, day, terms=(_of_the_question(term),)), desk.answerer)


def _of_the_question(term: Term) -> Term:
    """The term as one of a question's own, whatever is kept of the same words."""
    return term.model_copy(update={"id": 0})


def _answered(found: Understanding) -> Reading | None:
    return found.readings[0] if found.status == "answered" and found.readings else None


def _says_no_figure(reading: Reading) -> bool:
    """True where nothing in the words says what is worked out, so that it was only taken for it."""
    features = dict(reading.evidence.features)
    return any(features.get(name, 0.0) < 0 for name in ("main measure", "bare measure", "silent count"))


def _worked(desk: Desk, stop: Stop, reading: Reading, day: dt.date) -> Answered | None:
    try:
        return desk.answer_plan(reading.plan, day, stop=stop)
    except WasStopped:
        raise
    except CannotAnswer:
        return None


def _figure(answered: Answered | None) -> str:
    """The figure of an answer of one row: its own column, and not what it was worked out from."""
    if answered is None or not answered.rows:
        return ""
    name = answered.columns[0]
    return shown(answered.rows[0][0], answered.schema[name])


def _clashes(desk: Desk, term: Term) -> list[str]:
    """Other things that the same words stand for."""
    found = []
    for words in term.words:
        stems = tuple(t.stem for t in tokenise(words))
        for other in desk.reader.terms.all:
            if other.id == term.id or not any(tuple(t.stem for t in tokenise(w)) == stems for w in other.words):
                continue
            if words.lower() == term.words[0].lower() == other.words[0].lower():
                found.append(f"“{words}” means {other.meaning} so far; saved, this takes its place.")
            else:
                found.append(f"“{words}” also means {other.meaning}; the word that was defined last is in force.")
        for table in desk.catalogue.tables:
            if tuple(t.stem for t in tokenise(spoken(table.name))) == stems:
                found.append(f"“{words}” is also the table {table.name}; this meaning goes before it.")
            for column in table.columns:
                named = tuple(t.stem for t in tokenise(spoken(column.name)))
                if named == stems and (table.name, column.name) != (term.table, term.column):
                    found.append(
                        f"“{words}” is also the column {table.name}.{column.name}; this meaning goes before it."
                    )
    return list(dict.fromkeys(found))[:5]


def _uses(desk: Desk, stop: Stop, term: Term, trail: Sequence[TrailEntry], day: dt.date) -> list[TermUseOut]:
    """The latest questions by themselves with these words, as they are answered now and as they would be."""
    own = Terms((term,))
    uses: list[TermUseOut] = []
    linker = desk.reader.linker(day)
    seen: set[str] = set()
    for entry in reversed(trail):
        if len(uses) >= MOST_USES:
            break
        if entry.parent is not None or entry.question in seen or not own.held(tokenise(entry.question), linker).found:
            continue
        seen.add(entry.question)
        before = desk.understood_entry((entry,), day)
        after = _read(desk, entry.question, term, day)
        told = [_told(desk, stop, found, day) for found in (before, after)]
        uses.append(TermUseOut(id=entry.id, question=entry.question, before=told[0], after=told[1]))
    return uses


def _told(desk: Desk, stop: Stop, found: Understanding, day: dt.date) -> str:
    reading = _answered(found)
    answered = _worked(desk, stop, reading, day) if reading is not None else None
    return answered.finding if answered is not None else found.problem


def unread_words(desk: Desk, _stop: Stop, trail: Sequence[TrailEntry], day: dt.date) -> list[UnreadOut]:
    """Words of the latest questions that nothing here is called, the commonest first."""
    counted: Counter[str] = Counter()
    asked: dict[str, str] = {}
    for entry in reversed([e for e in trail if e.parent is None][-_LOOKED_AT:]):
        found = desk.reader.read(entry.question, day, terms=entry.terms)
        stand_ins = found.readings[0].stand_ins if found.readings else ()
        for word in dict.fromkeys((*found.unread, *stand_ins)):
            counted[word.lower()] += 1
            asked.setdefault(word.lower(), entry.question)
    return [UnreadOut(word=word, questions=n, question=asked[word]) for word, n in counted.most_common(8)]
