"""Plain ways to speak of rows: who came when, what was done to them, what they said, and of what there is most."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence

from gumption.core.model.types import Role, Type
from gumption.core.reading import meaning as m
from gumption.core.reading.derived import EMPLOYED, is_birth
from gumption.core.reading.grammar import Edge
from gumption.core.reading.meaning import ColumnKey
from gumption.core.reading.pieces import Measured, Noun, Part, Values
from gumption.core.reading.schema import holds_names
from gumption.core.reading.times import Span, span_condition
from gumption.core.reading.tokens import Token, stem, stems
from gumption.core.reading.vocabulary import BUYERS, PERSON_WORDS, Vocabulary, name_parts

SOME_PEOPLE = frozenset(stem(w) for w in ["people", "persons", "folks", "users", "anyone", "someone", "everyone"])
_PARTICIPLES = frozenset(
    ["seen", "sold", "sent", "paid", "spent", "driven", "flown", "given", "made", "lost", "won", "read"]
)


def is_participle(word: str) -> bool:
    """True for a word that says what was done: closed, paid."""
    return word.endswith("ed") or word in _PARTICIPLES


_NAMED_BY = stems("name id no number nr ref reference code key")
_TRAITS = frozenset(["age", "dob"])
_ASKED_OF = frozenset(["many", "of", "which", "different", "unique", "distinct"])
_SO_MUCH = frozenset(["quantity", "qty", "units", "volume", "sold", "number"])
_HOLDING = frozenset(["have", "own", "hold", "got", "keep", "stock"])
_KEPT_IN_STOCK = stems("stock quantity qty inventory hand")
_WAS_THERE = stems("attended came present arrived")
_CAME_TO_US = frozenset(["came", "come", "seen", "see", "saw"])
_ON_THE_WAY = frozenset(["who", "that", "were", "was", "did", "do", "we", "have", "has", "had", "been", "you"])
_DAYS_TAKEN = frozenset(["days", "taken", "used"])
"""What stands behind a kind of absence, of which there are so many days."""

_SERVING = stems(
    "server waiter teacher tutor agent handler operator manager supervisor doctor vet nurse driver mechanic technician"
    " inspector instructor coach consultant referee author reviewer seller rep clerk engineer officer dentist therapist"
    " adviser advisor contact assignee carer owner"
)
"""Those who see to what others come for."""
_AT_WORK = (_SERVING | EMPLOYED | stems("volunteer")) - stems("people team owner contact")
_ANYBODY = stems("person people man woman child adult casualty resident")

_WROTE = frozenset(["left", "gave", "made", "wrote", "added", "with", "provided"])
_WRITTEN = stems("comment comments feedback remark remarks note notes reason review suggestion suggestions else")


def who_stands_on_rows(vocabulary: Vocabulary) -> list[ColumnKey]:
    """The columns that say whom rows are about, and not who served or saw to them; none where a table is of people."""
    if any(PERSON_WORDS & {*w.parts} for w in vocabulary.tables.values()):
        return []
    found = []
    for key, words in vocabulary.columns.items():
        column = vocabulary.column(key)
        who = {*words.parts} & PERSON_WORDS
        if who == {stem("name")} and (
            words.parts != (stem("name"),) or column.distinct >= vocabulary.table(key.table).rows
        ):
            # The name of a course is nobody's, and that of each row is the row's own.
            continue
        doing = name_parts(key.column)[-1:] in (["by"], ["to"], ["email"], ["phone"])
        if column.type is Type.TEXT and who and not who & _SERVING and not doing and holds_names(column):
            found.append(key)
    return found


def whoever(tokens: Sequence[Token], found: Sequence[Edge], persons: Sequence[ColumnKey]) -> Iterator[Edge]:
    """How many people, or students, did something: whoever stands on the rows, where these are of no people themselves."""
    if not persons:
        return
    for place, (before, token) in enumerate(itertools.pairwise(tokens), 1):
        if before.lower not in _ASKED_OF:
            continue
        people = token.stem in SOME_PEOPLE and token.lower != "users"
        named = token.lower != token.stem and token.stem in PERSON_WORDS - _SERVING
        if not people and not named:
            continue
        known = max(
            (e.score for e in found if (e.start, e.end) == (place, place + 1) and e.category in "CTE"), default=0.0
        )
        if known < (0.85 if people else 0.75):
            yield from (Edge("C", place, place + 1, Noun(key=key), 1.15) for key in persons[:1])


def told_of_people(vocabulary: Vocabulary) -> str | None:
    """The one table whose rows tell the age of one person each; None where there is none, or several."""
    told = [
        t.name
        for t in vocabulary.catalogue.tables
        # Figures by age are of no one person each.
        if any(_TRAITS & {*name_parts(c.name)} and (c.is_measure or c.type.is_time) for c in t.columns)
        and any(c.role in (Role.IDENTIFIER, Role.NAME) for c in t.columns)
    ]
    return told[0] if len(told) == 1 else None


def told_by_traits(found: list[Edge], tokens: list[Token], table: str | None) -> list[Edge]:
    """How many patients were urgent: the rows of the table that tells the age of each, and no sum of patients' ages."""
    if table is None:
        return found
    kept = found
    for place, token in enumerate(tokens):
        if token.stem not in PERSON_WORDS - _SERVING or token.lower in (token.stem, "names", "name"):
            continue
        here = [e for e in found if e.start == place and e.end == place + 1]
        if any(e.category in ("T", "V") and e.score >= 0.6 for e in here) or any(_is_called(e, token) for e in here):
            continue
        kept = [e for e in kept if e not in here or e.category not in ("M", "C", "E", "MV", "TIMES")]
        kept.append(Edge("T", place, place + 1, Noun(table=table), 0.9))
    return kept


def _is_called(edge: Edge, token: Token) -> bool:
    """True where a column is called by a word alone, or by its name or number: patient, patient name, patient no."""
    key = edge.value.key if isinstance(edge.value, Noun) else None
    return key is not None and {stem(p) for p in name_parts(key.column)} - _NAMED_BY <= {token.stem}


def but_for_other_people(found: list[Edge], tokens: list[Token], vocabulary: Vocabulary) -> list[Edge]:
    """Customers are not whoever works there, and employees no patients, whatever else people are called."""

    def are_others(edge: Edge) -> bool:
        value = edge.value
        if edge.category not in ("C", "T", "DOER") or edge.end > edge.start + 1 or not isinstance(value, Noun):
            return False
        told = {*vocabulary.columns[value.key].parts} if value.key is not None else set()
        table = value.key.table if value.key is not None else value.table
        here = {*vocabulary.tables[table].parts} if table in vocabulary.tables else set()
        word = tokens[edge.start].stem
        for these, those in ((BUYERS, _AT_WORK), (_AT_WORK, BUYERS)):
            if word in these - those and word not in told | here:
                # A column that says who says it alone; a name is of whoever the rows are.
                who = told & (these | those) or here & (these | those)
                if who & those and not who & these:
                    return True
        return False

    return [e for e in found if not are_others(e)]


def but_for_ages_of_others(found: list[Edge], tokens: list[Token], vocabulary: Vocabulary) -> list[Edge]:
    """How old people are is told by when they were born, and by nothing else that happened to them."""

    def is_no_age(edge: Edge) -> bool:
        length = edge.value.expr if edge.category == "E" and isinstance(edge.value, Measured) else None
        if not isinstance(length, m.Length) or length.unit != "whole_years" or not isinstance(length.start, m.Col):
            return False
        key = length.start.key
        if is_birth(vocabulary, key):
            return False
        around = tokens[max(edge.start - 2, 0) : edge.end + 3]
        whose = {*vocabulary.tables[key.table].parts} | {t.stem for t in around}
        return bool(whose & (BUYERS | _AT_WORK | _ANYBODY))

    return [e for e in found if not is_no_age(e)]


def but_for_values(found: list[Edge], tokens: list[Token], vocabulary: Vocabulary) -> list[Edge]:
    """Thefts are rows of that kind before they are what is only like it, the loss on each."""
    values = {(e.start, e.end) for e in found if e.category == "V" and e.score >= 0.9}

    def is_like_one(edge: Edge) -> bool:
        if edge.category not in ("M", "MV") or edge.score >= 0.6 or (edge.start, edge.end) not in values:
            return False
        key = edge.value.key if isinstance(edge.value, Noun) else None
        said = {t.stem for t in tokens[edge.start : edge.end]}
        return key is not None and not said & {*vocabulary.columns[key].full}

    return [e for e in found if not is_like_one(e)]


def rows_of_a_kind(found: list[Edge], tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Crimes by ward are counted, where crimes are only like the kinds of what the rows are: incidents, of an offence type."""
    named = {p for e in found if e.category == "T" and e.score >= 0.6 for p in range(e.start, e.end)}
    # Customers that stand in a column are these, whatever else tells their type.
    named |= {e.start for e in found if e.category == "C" and e.score >= 0.97}
    # Items, where a quantity says how many, are as many.
    named |= {e.start for e in found if e.category == "E" and e.score >= 0.7}
    for edge in found:
        alone = edge.category == "C" and edge.end == edge.start + 1 and edge.score < 0.9 and edge.start not in named
        if not alone or edge.start + 1 >= len(tokens) or not isinstance(edge.value, Noun) or edge.value.key is None:
            continue
        several = tokens[edge.start].lower.endswith("s") and tokens[edge.start].lower not in name_parts(
            edge.value.key.column
        )
        behind = tokens[edge.start + 1].lower in ("by", "per", "each", "in", "over")
        ahead = edge.start == 0 or tokens[edge.start - 1].lower in ("of", "many", "the", "show", "count", "total")
        if several and behind and ahead and vocabulary.column(edge.value.key).role is Role.CATEGORY:
            yield Edge("T", edge.start, edge.end, Noun(table=edge.value.key.table), 0.95)


def sales_counted(tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """The number of sales is how many there were, where each row is one."""
    sold = [t for t, w in vocabulary.tables.items() if {"sale", "sold"} & {*w.parts}]
    for place, token in enumerate(tokens[1:], 1):
        before = [t.lower for t in tokens[max(place - 2, 0) : place]]
        counted = before in (["number", "of"], ["count", "of"], ["how", "many"])
        if token.lower == "sales" and counted and len(sold) == 1 and _is_sold_one_by_one(sold[0], vocabulary):
            yield Edge("T", place, place + 1, Noun(table=sold[0]), 1.1)


def _is_sold_one_by_one(table: str, vocabulary: Vocabulary) -> bool:
    """True where the rows of a table tell no number of what was sold."""
    columns = vocabulary.table(table).columns
    return not any(c.role is Role.QUANTITY and _SO_MUCH & {*name_parts(c.name)} for c in columns)


def said_something(tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Who left a comment: those where something is written, of a column of texts that some left empty."""
    for place, token in enumerate(tokens[1:], 1):
        before = [t.lower for t in tokens[max(place - 2, 0) : place] if t.lower not in ("a", "any", "some", "us")]
        if not before or before[-1] not in _WROTE or token.stem not in _WRITTEN:
            continue
        start = next(p for p in range(place, -1, -1) if tokens[p].lower == before[-1])
        rows = next((t for t, w in vocabulary.tables.items() if w.parts == (token.stem,)), None)
        if rows is not None and any(r.table == rows for r in vocabulary.catalogue.relationships):
            # Where feedback has rows of its own, those who left some have one.
            yield Edge("K", start, place + 1, Part(m.Has(m.Rows(rows)), "related"), 1.2)
            continue
        for key, words in vocabulary.columns.items():
            column = vocabulary.column(key)
            if column.type is Type.TEXT and column.missing and _WRITTEN & {*words.full}:
                yield Edge("STATE", start, place + 1, Part(m.Not(m.Missing(key)), "state"), 1.0)


def held_most(tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Which make do we have most of: there are most of it, where nothing says how many are in stock."""
    lowers = [t.lower for t in tokens]
    if any(_KEPT_IN_STOCK & {*w.parts} and vocabulary.column(k).is_measure for k, w in vocabulary.columns.items()):
        return
    for place, word in enumerate(lowers[1:-1], 1):
        before = lowers[place - 1] if lowers[place - 1] != "the" else lowers[place - 2]
        if word in ("most", "fewest", "least") and before in _HOLDING and lowers[place + 1 :] in (["of"], ["of", "?"]):
            yield Edge("MOSTC", place, place + 2, "+" if word == "most" else "-", 1.2)


def came_then(found: list[Edge], tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Owners who came in 2025, or were seen then, have visits of that time, whenever they joined."""
    spans = {e.start: e for e in sorted(found, key=lambda e: e.score) if e.category == "TIME"}
    tables = vocabulary.tables
    rows = [e for e in found if e.category == "T" and e.score >= 0.7 and e.value.table in tables]
    people = [e for e in rows if PERSON_WORDS & {*tables[e.value.table].parts}]
    for edge in people:
        verb = next((p for p in range(edge.end, len(tokens)) if tokens[p].lower not in _ON_THE_WAY), len(tokens))
        if verb >= len(tokens) or tokens[verb].lower not in _CAME_TO_US:
            continue
        at = verb + 1 + (verb + 1 < len(tokens) and tokens[verb + 1].lower in ("in", "to", "here"))
        when = next((spans[p] for p in (verb + 1, at) if p in spans), None)
        below = _happening_below(edge.value.table, vocabulary)
        if when is not None and isinstance(when.value, Span) and below is not None:
            then = span_condition(when.value, m.Col(below))
            # Where it is told whether they came, they did.
            flags = (k for k, w in vocabulary.columns.items() if k.table == below.table and _WAS_THERE & {*w.parts})
            so = [m.Is(k, (True,)) for k in flags if vocabulary.column(k).type is Type.BOOLEAN][:1]
            came = m.Has(m.Rows(below.table, (*so, then)))
            yield Edge("K", edge.end, when.end, Part(came, "related"), 1.25)


def _happening_below(table: str, vocabulary: Vocabulary) -> ColumnKey | None:
    """The day of what there is most of that happened to the rows of a table; None where nothing did."""
    catalogue = vocabulary.catalogue
    found = [
        (t.rows, ColumnKey(t.name, t.time_column.name))
        for t in catalogue.tables
        if t.name != table and t.time_column is not None and t.time_column.type.is_time
        if catalogue.path(t.name, table) is not None and not is_birth(vocabulary, ColumnKey(t.name, t.time_column.name))
    ]
    return max(found, key=lambda one: one[0])[1] if found else None


_DONE_AS = {
    "scored": "goals goal points tries runs",
    "borrowed": "loans loan",
    "bought": "orders sales purchases",
    "complained": "complaints complaint",
    "paid": "payments payment receipts",
    "played": "matches games appearances",
    "called": "calls call",
    "gave": "gifts donations",
    "donated": "gifts donations",
    "voted": "votes",
    "worked": "shifts",
}
"""What is done, and what the rows are called that tell of it."""
_NEVER = frozenset(["never", "haven't", "hasn't", "didn't", "not"])
_DOING_SO = _NEVER | {"have", "has", "ever", "yet", "actually"}
_AFTER_DOING_SO = frozenset(["in", "this", "last", "since", "?", "by", "and", ","])
_AFTER_BEING_DONE = frozenset(["?", ".", ",", "and", "but", "or", "yet", "at", "already"])


def who_did_it(tokens: list[Token], found: list[Edge], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Players who scored have goals, and those who never scored have none, where nothing else is called so."""
    for place in range(2, len(tokens)):
        rows = _DONE_AS.get(tokens[place].lower, "").split()
        if not rows or [t.lower for t in tokens[place + 1 : place + 2] if t.lower not in _AFTER_DOING_SO]:
            continue
        below = next((t for word in rows for t in vocabulary.tables if word in name_parts(t)), None)
        start = place
        while start and tokens[start - 1].lower in _DOING_SO:
            start -= 1
        if start and tokens[start - 1].lower in ("nobody", "noone", "one", "none", "no-one"):
            continue
        told = start and tokens[start - 1].lower in ("who", "that", "which")
        if below is None or not (told or start < place):
            continue
        who = start - 1 if told else start
        above = {e.value.table for e in found if e.category == "T" and e.start < who and e.score >= 0.9}
        denied = any(t.lower in _NEVER for t in tokens[start:place])
        yield from _having(below, above, who, place + 1, vocabulary, denied=denied)


def _having(
    below: str, above: set[str], start: int, end: int, vocabulary: Vocabulary, *, denied: bool
) -> Iterator[Edge]:
    """That there are rows of a table, or none, where they belong to rows of one that is named."""
    if any(t != below and vocabulary.catalogue.path(below, t) for t in above):
        has = m.Has(m.Rows(below))
        yield Edge("K", start, end, Part(m.Not(has) if denied else has, "related"), 1.2)


_BEEN = frozenset(["been", "were", "was", "are", "is", "get", "got", "being"])
_LEADING_TO_IT = _BEEN | {
    "who", "that", "which", "had", "have", "has", "already", "ever", "yet", "also", "later", "actually", "before", "then", "once",
} | _NEVER  # fmt: skip


def what_was_done_to_them(tokens: list[Token], found: list[Edge], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Candidates who were interviewed have an interview, and those who have never been have none."""
    done = [e for e in found if e.category == "T" and e.end == e.start + 1 and e.score >= 0.8]
    for edge in done:
        below, start = edge.value.table, edge.start
        if not is_participle(tokens[start].lower):
            continue
        following = tokens[edge.end].lower if edge.end < len(tokens) else "?"
        while start and tokens[start - 1].lower in _LEADING_TO_IT:
            start -= 1
        said = {t.lower for t in tokens[start : edge.start]}
        if not said & _BEEN or following not in _AFTER_BEING_DONE:
            continue
        above = {e.value.table for e in found if e.category == "T" and e.end <= start and e.score >= 0.9}
        above |= {e.value.column.table for e in found if e.category == "V" and e.end < start and e.score >= 0.6}
        yield from _having(below, above, start, edge.end, vocabulary, denied=bool(said & _NEVER))


def on_the_same_day(
    tokens: list[Token], vocabulary: Vocabulary, pairs: Sequence[tuple[str, tuple[ColumnKey, ColumnKey]]]
) -> Iterator[Edge]:
    """Same-day deliveries, orders dispatched the same day: those that were so on the day on which they began."""
    for place, token in enumerate(tokens):
        two = [t.lower for t in tokens[place : place + 2]]
        size = 1 if token.lower == "same-day" else 2 if two == ["same", "day"] else 0
        if not size:
            continue
        begin = place - (place > 0 and tokens[place - 1].lower == "the")
        begin -= begin > 0 and tokens[begin - 1].lower == "on"
        near = {t.stem: p for p, t in enumerate(tokens) if begin - 3 <= p <= place + size + 1}
        for table, (first, last) in pairs:
            said = next((near[p] for p in vocabulary.columns[last].parts if p in near), None)
            if said is None or first.table != last.table:
                continue
            held = Part(m.Compared("=", m.Length("days", m.Col(first), m.Col(last)), m.Number(0)), "number")
            if said == place + size and tokens[said].lower.endswith("s"):
                yield Edge("NPX", begin, said + 1, (held, Noun(table=table)), 1.2)
            yield Edge("K", min(begin, said), max(place + size, said + 1), held, 1.1)


def done_on(tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Who was interviewed has a day on which that was; those of whom it is not known yet have not been."""
    for place, token in enumerate(tokens[1:], 1):
        if not is_participle(token.lower) or (token.stem,) in vocabulary.values:
            continue
        if tokens[place - 1].lower not in ("were", "was", "been", "got", "are", "is"):
            continue
        for key, words in vocabulary.columns.items():
            column, parts = vocabulary.column(key), name_parts(key.column)
            own = parts[1:] in (["date"], ["on"], ["at"], ["day"]) and words.full[:1] == (token.stem,)
            if own and column.type.is_time and column.missing:
                yield Edge("STATE", place, place + 1, Part(m.Not(m.Missing(key)), "state"), 0.9)


def days_of_a_kind(found: list[Edge], tokens: list[Token], vocabulary: Vocabulary) -> Iterator[Edge]:
    """Sick days, or holiday taken, are the days of the rows that say so."""
    held = [e for e in found if e.category == "V" and e.score >= 0.85 and isinstance(e.value, Values)]
    for edge in held:
        following = tokens[edge.end] if edge.end < len(tokens) else None
        if following is None or following.lower not in _DAYS_TAKEN:
            continue
        for key in vocabulary.columns:
            column = vocabulary.column(key)
            if key.table != edge.value.column.table or not column.is_measure or not column.role.is_summed:
                continue
            if stem("days") in vocabulary.columns[key].full:
                said = m.Given(m.Col(key), m.Is(edge.value.column, edge.value.values))
                yield Edge("E", edge.start, edge.end + 1, Measured(said), 1.1)
