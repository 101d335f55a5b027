"""Every span of a question's words and what it may stand for: the terminals of the chart."""

from __future__ import annotations

import dataclasses
import datetime as dt
import functools
import itertools
import math
import re
from collections.abc import Callable, Container, Iterable, Iterator, Mapping, Sequence
from types import MappingProxyType
from typing import Literal

from babel.numbers import is_currency

from gumption.core.model.catalogue import Column
from gumption.core.model.names import plain, singular, spaced
from gumption.core.model.types import Role, Type
from gumption.core.reading import lexicon
from gumption.core.reading import meaning as m
from gumption.core.reading.bands import OF_AN_AGE, Band, band_of, bands_of, spoken_bands, within
from gumption.core.reading.batteries import agreements, blanks_of, is_of_ratings, statements_of
from gumption.core.reading.before_after import losses_on_the_way
from gumption.core.reading.conditions_of_state import StateFinder
from gumption.core.reading.derivations import bases
from gumption.core.reading.derived import (
    AT_MOST,
    BEGUN,
    BOUGHT,
    DOCKETS,
    EMPLOYED,
    OWED,
    PROMISED,
    WHOLES,
    Trade,
    billed_in_parts,
    derived_measures,
    docket,
    filled_beside,
    is_birth,
    kinds_apart,
    maxima,
    may_be_stock,
    payment_in,
    recommendations,
    time_pairs,
    trade,
)
from gumption.core.reading.figures import GROUPS, figures, together
from gumption.core.reading.flow import tells_when
from gumption.core.reading.gaps import told_of_gaps
from gumption.core.reading.grammar import Edge
from gumption.core.reading.limits import told_by_limits
from gumption.core.reading.meaning import QUANTITIES, ColumnKey
from gumption.core.reading.pieces import (
    Amount,
    Axis,
    Counted,
    Grouped,
    Held,
    Measured,
    Noun,
    OwnLink,
    Part,
    Top,
    Values,
    Worked,
)
from gumption.core.reading.plainly import (
    SOME_PEOPLE,
    but_for_ages_of_others,
    but_for_other_people,
    but_for_values,
    came_then,
    days_of_a_kind,
    done_on,
    held_most,
    is_participle,
    on_the_same_day,
    rows_of_a_kind,
    said_something,
    sales_counted,
    told_by_traits,
    told_of_people,
    what_was_done_to_them,
    who_did_it,
    who_stands_on_rows,
    whoever,
)
from gumption.core.reading.planned import Plan, asked_for_elsewhere, estimates, overruns, plans
from gumption.core.reading.residents import residents
from gumption.core.reading.returns import TAKEN_BACK, came_in, in_and_out, returns
from gumption.core.reading.roles import NUMBERING
from gumption.core.reading.routes import by_route, routes_of, set_out
from gumption.core.reading.schema import EXTRAS, GROUND, LEDGERS, PAYING, STUFF
from gumption.core.reading.since import between_rows
from gumption.core.reading.targets import by_target, timed_targets
from gumption.core.reading.times import (
    TIME_WORDS,
    UNITS,
    Span,
    are_periods,
    same_days_last_year,
    span_condition,
    time_mentions,
)
from gumption.core.reading.tokens import CURRENCIES, Token, clock, stem, stems, tokenise
from gumption.core.reading.vocabulary import (
    BIRTH,
    BUYERS,
    CAPITA,
    COST_PARTS,
    GENERIC_MONEY,
    INCOME_PARTS,
    INCOME_WORDS,
    KIND_WORDS,
    LONGEST_VALUE,
    MONEY_WORDS,
    OFFERED,
    PAID_FOR_THEM,
    PERSON_WORDS,
    PLANNED,
    SPENDING_WORDS,
    Vocabulary,
    is_common,
    is_yearly,
    name_parts,
    said_yes,
    word_stems,
)

LONGEST = 6
LONGEST_PHRASE = 10
KEPT = 5
WHOLE_NAME = 0.99
"""From this score on a table is called by the words themselves."""
_LONGEST_THERE = {
    tuple(p.split())
    for p in (
        "longest-serving",
        "longest serving",
        "with us longest",
        "with us the longest",
        "here longest",
        "longest standing",
        "longest running",
        "open longest",
        "open the longest",
    )
}
_EMPTY_NOUNS = frozenset(
    stem(w)
    for w in [
        "thing",
        "things",
        "one",
        "ones",
        "item",
        "items",
        "record",
        "records",
        "row",
        "rows",
        "entry",
        "entries",
        "case",
        "cases",
        "line",
        "lines",
    ]
)


def _words_of_figures(vocabulary: Vocabulary, named: ColumnKey) -> Iterator[tuple[str, tuple[str, ...]]]:
    """Each figure of a table in long form with words for it: its name, what a description says that its code stands for,
    and the first letters of these."""
    for value in vocabulary.column(named).values:
        told = [words for words, coded in vocabulary.codes.items() if (named, value) in coded]
        for words in dict.fromkeys((word_stems(value), *told)):
            yield value, words
            if len(words) > 2:
                # GDP is the gross domestic product.
                yield value, (stem("".join(w[0] for w in words)),)


def _own_links(vocabulary: Vocabulary) -> Iterator[tuple[str, OwnLink]]:
    """The words for rows of a table that others of it point at, each with where they stand."""
    for relationship in vocabulary.catalogue.relationships:
        role = relationship.other
        if vocabulary.role_columns.get(role) != relationship.column:
            continue
        one, other = vocabulary.table(relationship.table), vocabulary.table(role)
        name = other.naming_column
        if [c.name for c in one.columns] != [c.name for c in other.columns] or name is None:
            continue
        link = OwnLink(one.name, role, ColumnKey(one.name, relationship.column), ColumnKey(role, name.name))
        parts = {p for p in name_parts(relationship.column) if p not in NUMBERING}
        words = parts | (_BOSSES if parts & _LEADING else set())
        yield from ((word, link) for told in sorted(words) for word in dict.fromkeys((told, stem(told))))


class Linker:
    """Finds the terminals of questions against one vocabulary."""

    def __init__(self, vocabulary: Vocabulary, day: dt.date) -> None:
        self.vocabulary, self.day = vocabulary, day
        self.plans = dict(plans(vocabulary))
        self.derived: dict[tuple[str, ...], list[tuple[m.Expr | m.Quantity, float]]] = {}
        for phrase, meaning, score in (
            *derived_measures(vocabulary, day),
            *overruns(vocabulary, self.plans),
            *losses_on_the_way(vocabulary),
            *returns(vocabulary),
            *figures(vocabulary),
            *residents(vocabulary),
        ):
            self.derived.setdefault(tuple(phrase.split()), []).append((meaning, score))
        self.states: dict[tuple[str, ...], list[tuple[str, m.Condition, float]]] = {}
        finder, told = StateFinder(vocabulary, day), lexicon.states()
        meant = {state: list(finder.conditions(state)) for state in dict.fromkeys(told.values())}
        self.states.update((words, meant[state]) for words, state in told.items() if meant[state])
        for told_in, table, met, score in told_by_limits(vocabulary):
            self.states.setdefault(told_in, []).insert(0, (table, met, score))
        for table in vocabulary.tables:
            for _, *sides in recommendations(vocabulary, table):
                for side, met in zip((_PROMOTERS, _DETRACTORS), sides, strict=True):
                    self.states.update(((word,), [(table, met, 0.97)]) for word in side)
        self.payments = self._payments()
        for words, owed, score in self._unpaid():
            self.derived.setdefault(words, []).append((owed, score))
        self.gaps: dict[tuple[str, ...], list[tuple[m.Condition, float]]] = {}
        for key in vocabulary.columns:
            if vocabulary.column(key).missing and not vocabulary.column(key).type.is_number:
                for said, missing, sure in told_of_gaps(vocabulary.column(key)):
                    if len(said) == 1 and any(score >= 0.8 for score, _ in vocabulary.tables_for(said)[:1]):
                        # Blank for web orders: the orders are all there are.
                        continue
                    gap = m.Missing(key)
                    self.gaps.setdefault(said, []).append((gap if missing else m.Not(gap), sure))
        self._time_words = _words_of(k.column for k in vocabulary.columns if vocabulary.column(k).type.is_time)
        self.pairs = [(table, pair) for table in vocabulary.tables for pair in time_pairs(vocabulary, table)]
        for link in vocabulary.catalogue.relationships:
            # From the booking of a place to the day it was for, which stands on what was booked.
            ends = (vocabulary.table(t).time_column for t in (link.table, link.other))
            first, last = (
                ColumnKey(t, c.name) if c is not None else None
                for t, c in zip((link.table, link.other), ends, strict=True)
            )
            single = sum(c.type.is_time for c in vocabulary.table(link.table).columns) == 1
            of_people = bool(PERSON_WORDS & {*vocabulary.tables[link.other].parts})
            if not single or of_people or first is None or last is None:
                continue
            if not is_birth(vocabulary, last):
                self.pairs += [(link.table, (first, last)), (link.table, (last, first))]
        self.pairs = [(table, pair) for table, pair in self.pairs if self._runs_forward(pair)]
        self.short = [
            (ColumnKey(t.name, c.name), value, stems[0])
            for t in vocabulary.catalogue.tables
            for c in t.columns
            if c.type is Type.TEXT and c.role is Role.CATEGORY and c.distinct <= 12
            for value in c.values
            if len(stems := word_stems(value)) == 1
        ]
        self.told_by_name = {
            t.name
            for t in vocabulary.catalogue.tables
            if t.name not in vocabulary.weights and t.key is None
            for c in t.columns
            if c.is_measure and _begins_with(c.name, _kept_in(t.display or t.name))
        }
        """Tables called like what they tell: the life expectancy is a number, and no row; what is numbered is one."""
        self.kept = {
            stem(own): ColumnKey(t.name, c.name)
            for t in vocabulary.catalogue.tables
            if t.name in self.told_by_name and (own := _kept_in(t.display or t.name)) != (t.display or t.name)
            for c in reversed(t.columns)
            if c.is_measure and c.role is Role.QUANTITY and _begins_with(c.name, own)
        }
        """What a record tells the amount of: eggs are those that were collected, and not the lines of a record."""
        self.diaries = dict(self._kept_diaries())
        """Tables that are the diary of something which a column of theirs tells, with what it is."""
        self.rows_by_column = dict(self._rows_of_columns())
        """What the rows are by the name of a column: a trip date is the date of a trip."""
        self.rows_by_kind = dict(self._rows_of_kinds())
        """What the rows are by the name of a column of their kinds: a trip type is one of a trip."""
        self.costed = any(
            COST_PARTS & {*words.parts, *words.described} and vocabulary.column(key).is_measure
            for key, words in vocabulary.columns.items()
        )
        """True where a number says what something cost."""
        self.figure_words = {named: list(_words_of_figures(vocabulary, named)) for named, _ in vocabulary.figures}
        clocked: dict[str, ColumnKey] = {}
        for key in vocabulary.columns:
            if vocabulary.column(key).type is Type.TIME:
                clocked.setdefault(key.table, key)
        self.clocks = tuple(clocked.values())
        """The first time of day of each table that has one."""
        self.spelled: dict[tuple[str, ...], list[ColumnKey]] = {}
        for key in vocabulary.columns:
            self.spelled.setdefault(tuple(re.findall(r"[^\W_]+", key.column.lower())), []).append(key)
        self.coded: dict[tuple[str, ...], list[ColumnKey]] = {}
        for key in vocabulary.columns:
            pieces = re.findall(r"[^\W\d_]+|\d+", spaced(key.column))
            if any(p.isdigit() for p in pieces) and len(pieces) > 1:
                self.coded.setdefault(tuple(stem(lexicon.expanded(p.lower())) for p in pieces), []).append(key)
        self.bands = {key: bands for key in vocabulary.columns if (bands := bands_of(vocabulary.column(key)))}
        self.told_bands: dict[str, list[tuple[ColumnKey, Band]]] = {}
        for key in vocabulary.columns:
            band = band_of(key.column) if vocabulary.column(key).is_measure else None
            if band is not None:
                self.told_bands.setdefault(key.table, []).append((key, band))
        self.graded = {key: grades for key in vocabulary.columns if (grades := _grades(vocabulary.column(key)))}
        self.numbered_ages = [
            ColumnKey(t.name, c.name)
            for t in vocabulary.catalogue.tables
            if t.name in vocabulary.weights
            for c in t.columns
            if c.type is Type.INTEGER and "age" in name_parts(c.name)
        ]
        self.ages: dict[str, m.Expr] = {}
        for _, expr in self._ages():
            for key in m.columns_in(expr):
                self.ages.setdefault(key.table, expr)
        self.ages_of_people = [
            e
            for e in self.ages.values()
            if isinstance(e, m.Col) or any(is_birth(vocabulary, k) for k in m.columns_in(e))
        ]
        """Without how long ago somebody joined or something was made."""
        self.united = {
            key: unit
            for key in vocabulary.columns
            if vocabulary.column(key).is_measure
            for family in _FAMILIES
            if "per" not in name_parts(key.column) and (unit := self._unit_of(key, family)) is not None
        }
        self.per_head = [
            k for k, w in vocabulary.columns.items() if CAPITA & {*w.parts} and vocabulary.column(k).is_measure
        ]
        """What stands in a column for each person already, such as GDP per capita."""
        self.heads: dict[tuple[str, ...], list[ColumnKey]] = {}
        for key in vocabulary.columns:
            parts = tokenise(key.column)
            if len(parts) > 1 and any(t.kind == "symbol" for t in parts):
                self.heads.setdefault(tuple(t.lower for t in parts), []).append(key)
        """Columns by their heads, sign by sign, where there are signs in them: NO2 (ug/m3)."""
        self.written: dict[str, list[ColumnKey]] = {}
        for key in vocabulary.columns:
            bare = plain(re.sub(r"[(\[].*", "", key.column))
            if any(c.isdigit() for c in bare) and not bare.isdigit():
                self.written.setdefault(bare, []).append(key)
        """Columns by names that hold digits, such as PM2.5, without their units."""
        self.amounted: dict[tuple[str, ...], list[ColumnKey]] = {}
        for key in vocabulary.columns:
            called = name_parts(key.column)
            sized = len(called) == 2 and called[1] in _AMOUNTS and called[0] not in _NO_ROWS
            if sized and vocabulary.column(key).role is Role.MONEY:
                self.amounted.setdefault((stem(called[0]),), []).append(key)
        """Amounts by what they are the amount of: the loan amount, whatever the table that tells it is called."""
        self.lost = [
            k
            for k, w in vocabulary.columns.items()
            if _LOST & {*w.parts} and Role.FLAG is vocabulary.column(k).role and len(w.parts) <= 2
        ]
        """What says of people whether they have left."""
        self.persons = who_stands_on_rows(vocabulary)
        self.targets = timed_targets(vocabulary, self.pairs, self.united)
        trades = {t: trade(vocabulary, t) for t in vocabulary.tables}
        self.worked_revenue = self._worked_revenue(trades)
        self.units_sold = [e for e, _ in self.derived.get(("units", "sold"), ()) if isinstance(e, m.Col)]
        self.routes = routes_of(vocabulary)
        self.maxima = maxima(vocabulary)
        self.filled = [both for t in vocabulary.tables if (both := filled_beside(vocabulary, t)) is not None]
        """How many places are taken, and how many there are, of what is filled."""
        self.by_traits = told_of_people(vocabulary)
        self.role_names = {t: _words_of_a_role(c) for t, c in vocabulary.role_columns.items()}
        years = [int(c.low) for t in vocabulary.catalogue.tables for c in t.columns if is_yearly(c) and c.low]
        self.since = min([1900, *years])
        """The first year that a bare number may be."""
        planned = {t for t, words in vocabulary.tables.items() if PLANNED & set(words.parts)}
        self.planned = planned if len(planned) < len(vocabulary.tables) else frozenset[str]()
        self.kinds = {
            key: kind
            for table in vocabulary.tables
            for _, kinds in kinds_apart(vocabulary, table)
            for kind, key in kinds.items()
        }
        """Numbers that stand in a column for each kind, with the word of their kind."""
        numbers = {t: docket(vocabulary, t, found) for t, found in trades.items()}
        self.dockets = {table: number for table, number in numbers.items() if number is not None}
        """The number of the order that several lines belong to."""
        self.listed = {key.table: key for key in vocabulary.columns if vocabulary.is_of_other_rows(key)}
        self.sides = list(_sides(vocabulary))
        """Two columns of one table that hold the same names, such as the home side and the away side of a match."""
        self.done_small: dict[str, list[ColumnKey]] = {}
        for key in vocabulary.columns:
            called = name_parts(key.column)
            if vocabulary.column(key).role is Role.QUANTITY and len(called) == 1 and called[0] in lexicon.fillers():
                self.done_small.setdefault(stem(called[0]), []).append(key)
        """Numbers that are called by a small word, such as those made."""
        self._column_names = {key.column.lower() for key in vocabulary.columns}
        self.statements = next((s for t in vocabulary.tables if (s := statements_of(vocabulary.catalogue, t))), None)
        self.rated = {t for t in vocabulary.tables if is_of_ratings(vocabulary.catalogue, t)}
        self.blanks = next((b for t in vocabulary.tables if (b := blanks_of(vocabulary.catalogue, t))), None)
        self.agreements = dict(p for t in vocabulary.tables for p in agreements(vocabulary.catalogue, t))
        self.own_links = dict(_own_links(vocabulary))
        self.in_and_out = in_and_out(vocabulary)
        self.taken_back = [t for t, words in vocabulary.tables.items() if TAKEN_BACK & {*words.parts}]
        self.taken_in = {t: came_in(vocabulary, t) for t in vocabulary.tables}
        self.estimates = frozenset((*(was for was, _ in estimates(vocabulary)), *asked_for_elsewhere(vocabulary)))
        self.people = list(vocabulary.heads())
        self.acts = {stem(w) for w in lexicon.verbs()}
        """What is done, which is no other word for a value."""
        self.billed = {
            key: whole
            for table in vocabulary.tables
            if (whole := billed_in_parts(vocabulary, table)) is not None
            for key in m.columns_in(whole)
        }
        self.nouns = {p for words in vocabulary.tables.values() for p in words.parts}

    def _kept_diaries(self) -> Iterator[tuple[str, str]]:
        for table in self.vocabulary.catalogue.tables:
            parts = name_parts(table.display or table.name)
            if len(parts) == 2 and parts[-1] in _DIARIES:
                kept = stem(parts[0])
                told = (c for s, c in self.vocabulary.columns_for((kept,)) if s >= 0.6 and c.table == table.name)
                if any(3 * self.vocabulary.column(c).distinct < table.rows for c in told):
                    yield table.name, kept

    def _rows_of_columns(self) -> Iterator[tuple[str, str]]:
        for key in self.vocabulary.columns:
            parts, column = name_parts(key.column), self.vocabulary.column(key)
            if len(parts) != 2 or parts[1] not in _ENDING_A_NAME or parts[0] in _OF_ANY_ROW:
                continue
            rows = self.vocabulary.table(key.table).rows
            tells = column.type.is_time if parts[1] == "date" else column.distinct == rows > 1
            kept = stem(parts[0])
            called = any(s >= 0.8 for s, _ in self.vocabulary.tables_for((kept,))[:1])
            numbered = [
                o
                for o in self.vocabulary.columns
                if o.table == key.table and o != key and name_parts(o.column)[:1] == parts[:1]
            ]
            of_people = key.table in self.vocabulary.copies or self._is_of_people(key.table)
            if tells and not called and not numbered and not of_people and not parts[0].endswith(("ed", "ing")):
                yield kept, key.table
        booked = {k.table for k in self.vocabulary.columns if name_parts(k.column)[:1] == ["booked"]}
        if len(booked) == 1 and not any(s >= 0.8 for s, _ in self.vocabulary.tables_for((stem("booking"),))[:1]):
            # Of guests it is told how they booked: each row is a booking.
            yield stem("booking"), booked.pop()

    def _rows_of_kinds(self) -> Iterator[tuple[str, str]]:
        for key, words in self.vocabulary.columns.items():
            parts = name_parts(key.column)
            if len(parts) != 2 or words.head not in KIND_WORDS or stem(parts[0]) in self.rows_by_column:
                continue
            if not _LOGS & {*name_parts(key.table)[-1:]}:
                # The van type of a driver makes no vans of drivers.
                continue
            kept = stem(parts[0])
            called = any(s >= 0.7 for s, _ in self.vocabulary.tables_for((kept,))[:1])
            headed = any(other.parts == (kept,) for k, other in self.vocabulary.columns.items() if k.table == key.table)
            if not called and not headed and self.vocabulary.column(key).type is Type.TEXT:
                yield kept, key.table

    def _unpaid(self) -> Iterator[tuple[tuple[str, ...], m.Expr, float]]:
        """What is owed is what is not paid yet, where no two columns say what was due and what was paid."""
        for table, condition, _ in self.states.get(("unpaid",), ()):
            money = [
                ColumnKey(table, c.name)
                for c in self.vocabulary.table(table).columns
                if c.role is Role.MONEY and c.is_measure and not COST_PARTS & {*name_parts(c.name)}
            ]
            left = [k for k in money if not {"paid", "received", "collected"} & {*name_parts(k.column)}]
            money = left if len(money) > 1 and left else money
            for told in ({"gross", "due"}, {"total"}, {"amount"}):
                # What is to be paid is what everything comes to.
                whole = [k for k in money if told & {*name_parts(k.column)} and not _PARTLY & {*name_parts(k.column)}]
                money = whole if len(money) > 1 and whole else money
            if len(money) == 1 and ("owed",) not in self.derived:
                owed = m.Given(m.Col(money[0]), condition)
                yield from ((tuple(phrase.split()), owed, 0.85) for phrase in OWED)

    def _runs_forward(self, pair: tuple[ColumnKey, ColumnKey]) -> bool:
        """False where the data say that the second is no end of the first: it begins before that does."""
        first, last = (self.vocabulary.column(k) for k in pair)
        if None in (first.low, first.high, last.low, last.high) or first.type is Type.TIME:
            return True
        # What has begun lately may not have ended yet.
        begins, ends = (str(first.low)[:10], str(last.low)[:10]), (str(first.high)[:10], str(last.high)[:10])
        return begins[0] <= begins[1] and (pair[0].table == pair[1].table or ends[0] <= ends[1])

    def edges(self, tokens: list[Token], meant: Mapping[str, Iterable[Edge]] = MappingProxyType({})) -> list[Edge]:
        """Every span and what it may stand for; `meant` says so of words that a person gave a meaning."""
        found: list[Edge] = []
        for mention in time_mentions(tokens, self.day, self.since):
            score = (0.97 if mention.firm else 0.5) + 0.01 * (mention.end - mention.start - 1)
            before = [t.lower for t in tokens[max(mention.start - 2, 0) : mention.start]]
            bare = mention.end == mention.start + 1 and tokens[mention.start].number is not None
            if (
                bare
                and before[-1:] in (["than"], ["over"], ["under"], ["above"], ["below"])
                and not _SOONER & set(before)
            ):
                # More than 2,000 is a number before it is a year.
                score -= 0.5
            opens, closes = tokens[mention.start].lower, tokens[mention.end - 1].lower
            if opens in ("no", "not") or (opens, closes) == ("from", "ago"):
                # No earlier than a day is from that day on, and from two years ago is of that year and not of more.
                score += 0.5
            if mention.end == mention.start + 1 and opens in self._column_names:
                # What a column is called is that column: q4 of a survey is no quarter.
                score -= 0.6
            led = opens in ("by", "of")
            if led or before[-1:] in (["by"], ["of"]):
                for key in self._days_called(tokens[mention.start + led : mention.end]):
                    # By last day, where a column is called that, is no yesterday.
                    score -= 0.6
                    found.append(Edge("D", mention.start + led, mention.end, Noun(key=key), 1.0))
            found.append(Edge("TIME", mention.start, mention.end, mention.span, score))
        found.extend(self._begun_or_ended(tokens, [e for e in found if e.category == "TIME"]))
        found.extend(self._not_for_so_long(tokens))
        found.extend(
            Edge("LASTYTD", start, end, span, 0.95) for start, end, span in same_days_last_year(tokens, self.day)
        )
        found.extend(_before_it(tokens, found))
        ended = {e.end for e in found if e.category == "TIME"}
        found.extend(
            dataclasses.replace(e, category="PRIOR")
            for e in list(found)
            if e.category == "TIME"
            and tokens[e.start].lower in ("last", "previous")
            and isinstance(e.value, Span)
            # This month against last says both.
            and not ended & {e.start - 1, e.start - 2}
        )
        found.extend(self._percentages(tokens))
        found.extend(self._manners(tokens))
        found.extend(self._both_named(tokens))
        for start, token in enumerate(tokens):
            if token.kind == "term":
                found.extend(dataclasses.replace(e, start=start, end=start + 1) for e in meant.get(token.lower, ()))
                continue
            found.extend(self._single(tokens, start, token))
            for end in range(start + 1, min(start + LONGEST, len(tokens)) + 1):
                named = (self._weighed(self._as_written(e, tokens)) for e in self._span(tokens, start, end))
                if start and tokens[start - 1].lower in _ONE_OF:
                    # What stands behind an article is no verb: a claim.
                    named = (e for e in named if e.category not in ("VERB", "MV"))
                if start and tokens[start - 1].lower in ("each", "every"):
                    # Nor do they each order where there are orders: how many lines each order has.
                    all_named = list(named)
                    rows = any(e.category == "T" and e.score >= 0.9 for e in all_named)
                    named = (e for e in all_named if not rows or e.category not in ("VERB", "MV", "ACT"))
                found.extend(named)
            for end in range(start + LONGEST + 1, min(start + LONGEST_PHRASE, len(tokens)) + 1):
                lowers = tuple(t.lower for t in tokens[start:end])
                for category, payload in _operating(lowers):
                    found.append(Edge(category, start, end, payload, 0.9 + 0.01 * (end - start - 1)))
        found = [
            dataclasses.replace(e, score=e.score - 0.35)
            if e.category in ("T", "C") and e.start and tokens[e.start - 1].lower in ("we", "they", "you", "i")
            else e
            for e in found
        ]
        ranked = {(e.end - 1, e.end) for e in found if isinstance(e.value, Top) and e.value.by is not None}
        # The most profitable has most profit, and not most of what is profitable.
        found = _less_sure(found, 0.4, lambda e: e.category == "STATE" and (e.start, e.end) in ranked)
        doers = {(e.start, e.end) for e in found if e.category == "T" and e.score >= 0.95}
        # Candidates applied is what they did, and no name of their applications.
        found = _less_sure(found, 0.6, lambda e: _is_said_of_them(tokens, e, doers))
        found = but_for_other_people(found, tokens, self.vocabulary)
        # Split by negotiator is no condition on the agent, and a commission is not who is charged.
        found = _less_sure(found, 0.35, lambda e: _is_an_idea_split_by(tokens, e) or self._is_who_for(tokens, e))
        found = but_for_ages_of_others(found, tokens, self.vocabulary)
        found.extend(self._until_the_first(found, tokens))
        found = self._said_whole_elsewhere(found, tokens)
        listed = _listed_columns(found, tokens)
        # In a list of columns each is one, whatever value is called like it.
        found = [e for e in found if e.category != "V" or (e.start, e.end) not in listed]
        called = {
            e.value.key: e.start for e in found if e.category == "C" and e.score >= 0.97 and isinstance(e.value, Noun)
        }
        # The yield by product is no other word for the product.
        found = _less_sure(
            found,
            0.45,
            lambda e: (
                e.category == "C"
                and e.score < 0.8
                and isinstance(e.value, Noun)
                and called.get(e.value.key, e.start) != e.start
            ),
        )
        found.extend(list(_whose_things(found, tokens)))
        found.extend(list(_measured_of_rows(found, tokens)))
        found.extend(list(_with_its_column(found)))
        found.extend(list(self._money_of(found, tokens)))
        found = [self._as_money(e, found, tokens) for e in found]
        found.extend(list(self._of_grades(found, tokens)))
        found.extend(list(self._open_then(found, tokens)))
        found.extend(list(self._ages_of_rows(found, tokens)))
        found.extend(self._doings_named(found, tokens))
        found.extend(_left_the_house(tokens, found))
        found.extend(self._there_then(tokens, found))
        found.extend(self._ends_of_rows(tokens, found))
        found.extend(self._had_by_some(tokens, found))
        found.extend(self._without_anybody(tokens))
        found.extend(self._heads_as_written(tokens))
        found.extend(done_on(tokens, self.vocabulary))
        found.extend(list(who_did_it(tokens, found, self.vocabulary)))
        found.extend(list(what_was_done_to_them(tokens, found, self.vocabulary)))
        found.extend(on_the_same_day(tokens, self.vocabulary, self.pairs))
        found.extend(list(came_then(found, tokens, self.vocabulary)))
        found.extend(held_most(tokens, self.vocabulary))
        found.extend(said_something(tokens, self.vocabulary))
        found.extend(sales_counted(tokens, self.vocabulary))
        best = {p for p in range(1, len(tokens)) if tokens[p].lower == "selling" and tokens[p - 1].lower in MOST}
        # What sells best has no price to tell by.
        found = [
            e
            for e in found
            if (e.end - 1 not in best or not self._is_priced(e.value))
            and (e.end not in best or e.category not in ("SUP", "TOPN"))
        ]
        found.extend(self._traded(tokens))
        found.extend(self._given_so_often(tokens, found))
        found.extend(by_target(tokens, self.targets))
        found.extend(by_route(tokens, self.routes))
        found.extend(set_out(tokens, self.routes))
        found.extend(list(days_of_a_kind(found, tokens, self.vocabulary)))
        found = _less_sure(found, 0.4, _hides_a_value(found))
        found = but_for_values(found, tokens, self.vocabulary)
        if self.maxima and not (AT_MOST | {"most"}) & {t.lower for t in tokens}:
            # Passengers are those who were there, and not as many as there may be.
            found = _less_sure(found, 0.4, lambda e: isinstance(e.value, Noun) and e.value.key in self.maxima)
        found = told_by_traits(found, tokens, self.by_traits)
        timed = {e.start for e in found if e.category == "TIME"}
        # Contracts ending in the next six months end then, and no name ends with a word of these.
        found = [e for e in found if e.category != "ENDS" or not timed & {e.end - 1, e.end, e.end + 1}]
        found.extend(rows_of_a_kind(found, tokens, self.vocabulary))
        found.extend(list(whoever(tokens, found, self.persons)))
        found.extend(self._still_there(tokens))
        found.extend(self._who_wrote(tokens))
        found.extend(self._earners(tokens, found))
        found.extend(self._taken_apart(tokens))
        found.extend(self._said_in_two_words(tokens))
        found.extend(list(self._with_its_kind(tokens, found)))
        found.extend(self._with_an_article(tokens))
        found.extend(list(self._named_with_years(tokens, found)))
        summed = {(e.start, e.end) for e in found if e.category == "E" and e.score > 1.05}
        # Guests that are told in numbers are those numbers, and not the rows on which these stand.
        found = [
            dataclasses.replace(e, score=e.score - 0.3) if e.category == "T" and (e.start, e.end) in summed else e
            for e in found
        ]
        found = [self._in_place(e, tokens) for e in self._in_roles(self._ages_of_the_named(found), tokens)]
        for place in range(2, len(tokens)):
            asked = tokens[place - 2].lower in ("do", "did", "does", "can", "could")
            if asked and tokens[place - 1].lower in ("we", "they", "you", "people") and place == len(tokens) - 1:
                # What is done with what was asked about already: how many hectares do we farm.
                found.append(Edge("IDLE", place, place + 1, "", 0.85))
        for place in range(1, len(tokens) - 1):
            if tokens[place].lower == "people" and tokens[place - 1].lower in ("do", "did", "does"):
                # How far ahead people book is asked of the bookings, whoever made them.
                found = [e for e in found if e.category not in ("E", "M") or not e.start <= place < e.end]
                found.append(Edge("IDLE", place, place + 1, "", 0.85))
        for place, token in enumerate(tokens[1:], 1):
            following = tokens[place + 1].lower if place + 1 < len(tokens) else ","
            placed = following in lexicon.prepositions() or following in _PLACED
            works = token.lower in ("work", "works", "working") and tokens[place - 1].stem in _WORKING_PEOPLE
            lives = token.lower in ("live", "lives", "living", "reside", "resides") and following != "data"
            if placed and (lives or works):
                # Who live or work in a place do so, whatever else is live and whatever work there was.
                found = [e for e in found if e.category not in _OF_WORK or not e.start <= place < e.end]
                found.append(Edge("IDLE", place, place + 1, "", 0.85))
        last = len(tokens) - 1
        if last > 3 and tokens[0].lower == "which" and tokens[last].lower in lexicon.verbs():
            if {"do", "did", "does"} & {t.lower for t in tokens[2 : last - 1]}:
                # Which products did they buy: those on their rows, whatever the rows say was done.
                found.append(Edge("IDLE", last, last + 1, "", 0.85))
        # People over 65, where ages stand in bands, are of an age, and no number of people.
        aged = {e.start for e in self._in_bands(tokens) if e.start and e.category in ("V", "E")}
        aged = {p for p in aged if tokens[p - 1].lower in _GENDERED or tokens[p - 1].stem in SOME_PEOPLE | PERSON_WORDS}
        found = [e for e in found if e.category != "CMP" or e.start not in aged]
        # From 5 on is a bound; income from charges is of these.
        of_what = {
            p
            for p, t in enumerate(tokens)
            if t.lower == "from" and not any(n.number is not None for n in tokens[p + 1 : p + 3])
        }
        found = [e for e in found if e.category != "CMP" or e.start not in of_what]
        if any(t.stem in lexicon.troubles() for t in tokens):
            # Worse than the rest in what is the worse the more there is of it has more.
            turned = {("worse", "<"): ">", ("better", ">"): "<"}
            found = [
                dataclasses.replace(e, value=turned.get((tokens[e.start].lower, e.value), e.value))
                if e.category == "CMP"
                else e
                for e in found
            ]
        found = self._without_faint(tokens, found)
        whole = [e for e in found if isinstance(e.value, Values) and not e.value.partly]
        found = [e for e in found if not _is_inside(e, whole) and not _is_in_a_name(e, whole, tokens)]
        names = [e for e in whole if e.category == "V" and e.end > e.start + 1 and e.score >= 0.9]
        # Autumn 2025, where terms are called so, is that term, and no stretch of days.
        terms = [e for e in names if any(t.number is not None for t in tokens[e.start : e.end])]
        found = [
            e for e in found if e.category != "TIME" or not any(e.start <= n.start and n.end <= e.end for n in terms)
        ]
        # A street light is one thing, and no light on a street; a field called Top field is no top.
        found = [
            dataclasses.replace(e, score=e.score - 0.25)
            if e.category in _NAMING and _lies_within(e, names)
            else dataclasses.replace(e, score=e.score + 0.25)
            if e in names and any(_is_worked_by(t.lower) or t.lower in _AT_AN_END for t in tokens[e.start : e.end])
            else e
            for e in found
        ]
        spelled = [
            (e.start, e.end)
            for e in found
            if (e.category in ("M", "C", "D", "F") and e.end > e.start + 1 and e.score >= 1.04)
            or (e.category == "E" and e.end > e.start + 1 and e.score >= 0.95 and isinstance(e.value.expr, m.Given))
        ]
        found = _less_sure(
            found,
            0.4,
            lambda e: (
                e.category in _WORKING
                and (any(s <= e.start < t or s < e.end <= t for s, t in spelled) or _lies_within(e, names))
            ),
        )
        # Where players have a position, that is none in an order.
        kinds = {
            e.end
            for e in found
            if e.category == "C" and e.score >= 0.97 and self.vocabulary.column(e.value.key).type is Type.TEXT
        }
        found = [e for e in found if e.category != "RANK" or e.end not in kinds]
        # Did not attend, where it is a value, denies nothing; nor does a job no.
        numbered = list(self._numbered(tokens))
        found = [
            e
            for e in found
            if e.category not in ("NEG", "WITHOUT")
            or not (
                _begins_or_lies_in(e, whole)
                or any(s < e.start and e.end <= t for s, t in spelled)
                or any(n.start < e.start < n.end for n in numbered)
            )
        ]
        found += numbered
        whole_names = {
            (e.start, e.end)
            for e in found
            if e.category == "M"
            and e.end > e.start + 1
            and self.vocabulary.columns[e.value.key].parts == tuple(t.stem for t in tokens[e.start : e.end])
        }
        # What orders cost to ship is no shipping cost, where a column is called that.
        found = _less_sure(found, 0.2, lambda e: e.category == "E" and (e.start, e.end) in whole_names)
        rated = {
            e.end
            for e in found
            if e.category == "M"
            and e.end > e.start + 1
            and e.score >= 0.75
            and self.vocabulary.column(e.value.key).role is Role.PERCENTAGE
        }
        # The free meals percentage stands in a column, and is no share of what comes behind.
        found = _less_sure(found, 0.7, lambda e: e.category == "SHARE" and e.end in rated)
        found = self._as_they_pay(found, tokens)
        found = self._as_they_stand(tokens, found)
        amounts = {e.start for e in found if e.category == "M" and tokens[e.start].lower == "amount" and e.score >= 0.9}
        # The amount of unpaid bills is what their amounts come to, where there are such, and not how many there are.
        found = _less_sure(
            found, 0.9, lambda e: e.category == "COUNT" and tokens[e.end - 2].lower == "amount" and e.end - 2 in amounts
        )
        worth = {(e.start, e.end) for e in found if e.category == "E" and e.score >= 0.85}
        # The cost of something is what it comes to, also where the lines of it stand in a table of costs.
        found = _less_sure(
            found,
            0.2,
            lambda e: (
                e.category == "T"
                and (e.start, e.end) in worth
                and tokens[e.start].lower in ("cost", "expense", "spend")
            ),
        )
        found = self._taken_in(tokens, found)
        found = self._not_taken_back(tokens, found)
        found = _without_signs(found)
        found = _values_before_states(self._of_columns_before_states(found, tokens))
        found = self._how_many_things(found, tokens)
        found += self._states_of_what_is_named(found, tokens)
        said_here = {t.lower for t in tokens}
        # Of home wins the team is the one at home.
        found = _less_sure(found, 0.15, lambda e: e.category == "C" and _is_of_another_kind(e.value, said_here))
        states = [e for e in found if e.category == "STATE" and e.end > e.start + 1 and e.score >= 0.8]
        # Paid late is late of a payment, and no reason that is called late.
        found = _less_sure(
            found, 0.3, lambda e: e.category == "V" and any(s.start < e.start and e.end == s.end for s in states)
        )
        told = {(e.start, e.end) for e in found if e.category == "M" and e.score >= 0.95}
        # How many hours somebody did is told by the hours that stand in a column, and is no count of hours of the day.
        found = _less_sure(
            found,
            0.4,
            lambda e: e.category == "UNIT" and (e.start, e.end) in told and tokens[e.start].lower.endswith("s"),
        )
        found = _without_flags_of_their_rows(found)
        found = [self._as_said(e, tokens) for e in _without_what_begins_with_a_measure(found, tokens)]
        found = [self._kind_or_number(e, tokens) for e in self._rows_by_their_number(found, tokens)]
        found = [self._in_words(e, tokens) for e in found]
        if [t.lower for t in tokens[1:3]] in (["time", "is"], ["time", "was"], ["time", "does"], ["time", "did"]):
            found = [self._by_the_clock(e) for e in found]
        spans = {(e.start, e.end) for e in found if e.category == "TIME"}
        # A period that stands in the data as it is written is that one.
        found = [
            dataclasses.replace(e, score=e.score + 0.15)
            if e.category == "V" and e.end > e.start + 1 and (e.start, e.end) in spans and self._is_of_periods(e)
            else e
            for e in found
        ]
        thirds = [e for e in found if e.category == "TIME" and e.score > 0.9 and tokens[e.start].lower == "late"]
        # Late March is a third of it, and none of what was late.
        found = [e for e in found if e.category != "STATE" or not any(_opens(e, t) for t in thirds)]
        stretches = [e for e in found if e.category == "TIME" and e.end - e.start >= 3 and e.score > 0.9]
        found = [e for e in found if e.category not in ("D", "M", "C") or not _lies_in(e, stretches)]
        found = self._dates_of_what_is_named(tokens, found)
        found = self._latest_of_its_own(found)
        found.extend(self._last_dates(found))
        found.extend(self._being_in(tokens, found))
        found = [self._with_its_no(tokens, e) for e in found]
        found = [self._of_one_kind(tokens, e) for e in found]
        found = list(self._orders_of_lines(tokens, found))
        found.extend(self._those_under(tokens, found))
        found.extend(self._either_side(tokens, found))
        found = self._plans_unasked(tokens, found)
        found = _paid_by_how_much(tokens, found)
        found = self._ages_of_what_is_named(found)
        found = [e for e in found if not self._adds_up_what_is_not(tokens, e)]
        # "I mean" says nothing of averages.
        found = [
            e
            for e in found
            if not (e.category == "AGG" and e.value == "mean" and e.start and tokens[e.start - 1].lower in ("i", "you"))
        ]
        found.extend(self._never_at_all(tokens))
        found.extend(self._paid_on(tokens, found))
        found.extend(self._so_many_kinds(tokens, found))
        found.extend(self._of_things(tokens, found))
        found.extend(self._keyed(tokens, found))
        found.extend(self._unknown(tokens, found))
        found.extend(self._lengths(tokens))
        found.extend(self._reversed(tokens))
        found.extend(self._dates_done(tokens))
        found.extend(self._beginning(tokens))
        found.extend(self._modified(tokens, found))
        found.extend(self._taken(tokens))
        found.extend(self._by_size(tokens))
        found.extend(self._measured(tokens))
        found.extend(self._in_other_units(tokens))
        found.extend(_stretches(tokens))
        found.extend(self._in_bands(tokens))
        found.extend(self._doing(tokens, found))
        found.extend(self._undone(tokens))
        found.extend(self._profiting(tokens))
        found.extend(self._occupied(tokens))
        found.extend(self._rated(tokens))
        found.extend(self._owing(tokens))
        found.extend(self._plans_named(found))
        found.extend(self._coins(tokens, found))
        found.extend(self._own_links_named(tokens))
        levels = list(self._kinds_of_levels(tokens, found))
        spans = {(e.start, e.end) for e in levels}
        # Countries are those of that level, where there is such a level, and nothing that is only like a country.
        found = _less_sure(found, 0.5, lambda e: e.category == "C" and (e.start, e.end) in spans)
        found.extend(levels)
        found.extend(self._statements_named(tokens))
        found = [*self._told_of_ratings(tokens, found)]
        bands = list(_edges_of_bands(tokens))
        found.extend(bands)
        found.extend(self._sized_in(tokens, bands))
        return [self._billed_whole(e, tokens) for e in found]

    def _billed_whole(self, edge: Edge, tokens: list[Token]) -> Edge:
        """What was charged for a job is all of its parts, where a verb alone says that it is money."""
        if edge.category != "MV" or not isinstance(edge.value, Noun) or edge.value.key not in self.billed:
            return edge
        own = self.vocabulary.columns[edge.value.key].parts
        if any(t.stem in own for t in tokens[edge.start : edge.end]):
            return edge
        return Edge("E", edge.start, edge.end, Measured(self.billed[edge.value.key], verb=True), edge.score)

    def _begun_or_ended(self, tokens: list[Token], times: list[Edge]) -> Iterator[Edge]:
        """Stays starting in July start then, and are not all from July on."""
        for edge in times:
            word = tokens[edge.start].stem
            if word not in _BEGINS | _ENDED or not edge.start or tokens[edge.start + 1].lower in ("from", "with"):
                continue
            after = edge.start + 1 + (tokens[edge.start + 1].lower in ("in", "on", "during"))
            named = next((t for t in times if t.start == after and t.end == edge.end), None)
            rows = {
                table for score, table in self.vocabulary.tables_for((tokens[edge.start - 1].stem,)) if score >= 0.8
            }
            pairs = [pair for table, pair in self.pairs if table in rows]
            pairs = [p for p in pairs if self._is_told(p[0], _ARRIVING) and self._is_told(p[1], _LEAVING)] or pairs
            if named is not None and isinstance(named.value, Span) and pairs:
                date = pairs[0][word not in _BEGINS]
                condition = span_condition(named.value, m.Col(date))
                yield Edge("K", edge.start, edge.end, Part(condition, "time"), edge.score + 0.1)

    def _beginning(self, tokens: list[Token]) -> Iterator[Edge]:
        """When a stay starts: the first of two dates of which the last says when somebody leaves, as they arrive."""
        for place, token in enumerate(tokens):
            if token.stem not in _BEGINS:
                continue
            for _, (first, last) in self.pairs:
                if self._is_told(first, _ARRIVING) and self._is_told(last, _LEAVING):
                    yield Edge("D", place, place + 1, Noun(key=first), 0.66)

    def _sized_in(self, tokens: list[Token], bands: list[Edge]) -> Iterator[Edge]:
        """By size, before a list of bands: by what each of the rows comes to."""
        for edge in bands:
            place = edge.start - 1 - (edge.start > 0 and tokens[edge.start - 1].lower == ":")
            if place >= 0 and tokens[place].lower in _SIZES:
                for money in self._generic_money("amount", place, place + 1):
                    yield Edge("E", place, place + 1, Measured(m.Col(money.value.key)), money.score)

    def _comes_again(self, key: ColumnKey, tokens: list[Token]) -> bool:
        """True for the day, the month or the quarter of a date that is told whole beside it, where it is that of
        several: by month means one after the other, and not all the Mays together."""
        column = self.vocabulary.column(key)
        if not column.whole or "year" in (unit := name_parts(column.name)):
            return False
        date = self.vocabulary.column(ColumnKey(key.table, column.whole))
        if date.distinct <= column.distinct:
            return False
        several = (date.low or "")[:4] != (date.high or "")[:4] and not _is_of_one_year(tokens)
        return "day" in unit or several

    def _dates_of_what_is_named(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """Claims opened in May: the date is one of the claims, and not of the policies."""
        rows = {
            e.end: e.value.table
            for e in found
            if e.category == "T" and e.score >= 0.8 and isinstance(e.value, Noun) and self._happens(e.value.table)
        }
        return [
            dataclasses.replace(e, score=e.score - 0.35)
            if e.category == "D"
            and (table := rows.get(e.start - (tokens[e.start - 1].lower in ("that", "which", "who", "were"))))
            is not None
            and _table_of(e.value) not in (table, None)
            else e
            for e in found
        ]

    def _latest_of_its_own(self, found: list[Edge]) -> list[Edge]:
        """The latest visit is so by its own date, whatever else has one."""
        rows = {(e.start, e.value.table) for e in found if e.category == "T" and isinstance(e.value, Noun)}
        return [
            dataclasses.replace(e, score=e.score + 0.12)
            if isinstance(e.value, Top)
            and isinstance(e.value.by, m.Col)
            and (e.end, e.value.by.key.table) in rows
            and self.vocabulary.column(e.value.by.key).type.is_time
            else e
            for e in found
        ]

    def _had_by_some(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Medallists are those of whom a medal is told, in a column that stands empty for the others."""
        for edge in found:
            key = edge.value.key if edge.category == "C" and isinstance(edge.value, Noun) else None
            if key is None or edge.score < 0.7 or not tokens[edge.end - 1].lower.endswith("s"):
                continue
            column = self.vocabulary.column(key)
            if column.type is Type.TEXT and column.distinct <= _MOST_MADE_OF and column.missing:
                yield dataclasses.replace(edge, category="GAPC")

    def _last_dates(self, found: list[Edge]) -> Iterator[Edge]:
        """Dates of when something was last done, such as a last service, and of what is still to come, such as an expiry."""
        for edge in found:
            if edge.category == "D" and isinstance(edge.value, Noun) and edge.value.key is not None:
                parts = set(name_parts(edge.value.key.column))
                if _LAST & parts:
                    yield dataclasses.replace(edge, category="LASTD", score=min(edge.score + 0.15, 0.95))
                if _LATER & parts:
                    yield dataclasses.replace(edge, category="LATERD")

    def _being_in(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """On loan, under repair: of which there is a loan or a repair that has not ended."""
        for edge in found:
            rows = edge.value.table if isinstance(edge.value, Noun) and edge.category == "T" else None
            first = edge.start - 1
            if rows is None or first < 0 or edge.score < 0.85 or edge.end != edge.start + 1:
                continue
            word = tokens[edge.start].lower
            if word.endswith("s") or tokens[first].lower not in ("on", "under", "in"):
                continue
            ongoing = next((c for t, c, _ in self.states.get(("active",), ()) if t == rows), None)
            if ongoing is not None and self.vocabulary.catalogue.parents(rows):
                start = first - (first > 0 and tokens[first - 1].lower in ("out", "currently", "still"))
                yield Edge("K", start, edge.end, Part(m.Has(m.Rows(rows, (ongoing,))), "related"), 0.8)

    def _lasts(self, table: str) -> bool:
        return any(first.table == table == last.table for _, (first, last) in self.pairs)

    def _adds_up_what_is_not(self, tokens: list[Token], edge: Edge) -> bool:
        """True for a total that is read as the name of what is averaged: the total attendance is a sum."""
        if edge.category not in ("M", "E", "C") or edge.end - edge.start < 2 or tokens[edge.start].lower != "total":
            return False
        key = edge.value.key if isinstance(edge.value, Noun) else None
        if key is None:
            return False
        column = self.vocabulary.column(key)
        misread = column.is_measure if edge.category == "C" else not column.role.is_summed
        return misread and stem("total") not in self.vocabulary.columns[key].full

    def _how_many_things(self, found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """How much contracts there are asks how many, as long as these are no money themselves, such as payments."""
        places = [p for p in range(len(tokens) - 2) if [t.lower for t in tokens[p : p + 2]] == ["how", "much"]]
        for place in places:
            behind = [e for e in found if e.start == place + 2]
            rows = [e for e in behind if e.category == "T" and e.score >= 0.9 and tokens[e.end - 1].lower.endswith("s")]
            money = any(e.category in ("M", "E", "MV") and e.score >= 0.6 for e in behind) or any(
                LEDGERS & {*self.vocabulary.tables[e.value.table].parts} for e in rows
            )
            if rows and not money:
                told = (place, place + 2)
                found = [e for e in found if e.category != "HOWMUCH" or (e.start, e.end) != told]
                found.append(Edge("COUNT", *told, None, 0.9))
        return found

    def _of_columns_before_states(self, found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """Opened is the column called so before a value that is a word for it; absences are a state before they are rows."""
        named = {
            (e.start, e.end): e.value.key
            for e in found
            if e.category == "M"
            and isinstance(e.value, Noun)
            and e.value.key is not None
            and tokens[e.start].stem in self.vocabulary.columns[e.value.key].parts
        }
        states = {(e.start, e.end) for e in found if e.category == "STATE" and e.score >= 0.85}

        def is_told_elsewhere(edge: Edge) -> bool:
            column = named.get((edge.start, edge.end))
            told = edge.value.condition if edge.category == "STATE" and isinstance(edge.value, Part) else None
            return column is not None and isinstance(told, m.Is) and told.column != column

        found = _less_sure(found, 0.3, is_told_elsewhere)
        return _less_sure(found, 0.3, lambda e: e.category == "T" and e.score < 0.8 and (e.start, e.end) in states)

    def _states_of_what_is_named(self, found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """An overdue licence is past its licence due date: the word beside the state is the column's own."""
        made = []
        for edge in found:
            condition = edge.value.condition if edge.category == "STATE" and isinstance(edge.value, Part) else None
            dates = [k for k in m.columns_in(condition) if self.vocabulary.column(k).type.is_time] if condition else []
            if len(dates) != 1 or not any(isinstance(p, m.Today) for p in m.parts(condition)):
                continue
            own = {*self.vocabulary.columns[dates[0]].parts} - PROMISED
            verb = edge.start > 1 and tokens[edge.start - 1].lower in ("is", "are", "has", "have", "was", "were")
            for start, end, beside in (
                (edge.start - 1 - verb, edge.end, edge.start - 1 - verb),
                (edge.start, edge.end + 1, edge.end),
            ):
                if 0 <= beside < len(tokens) and tokens[beside].stem in own:
                    made.append(dataclasses.replace(edge, start=start, end=end, score=max(edge.score, 0.95)))
        return made

    @staticmethod
    def _ages_of_what_is_named(found: list[Edge]) -> list[Edge]:
        """How old vans are is told of the vans, where they are named and their age is known."""
        named = {e.value.table for e in found if e.category == "T" and isinstance(e.value, Noun) and e.score >= 0.85}
        ages = {
            id(e): {k.table for k in m.columns_in(e.value.expr)}
            for e in found
            if e.category == "E"
            and isinstance(e.value, Measured)
            and isinstance(e.value.expr, m.Length)
            and e.value.expr.unit == "whole_years"
        }
        if not any(tables & named for tables in ages.values()):
            return found
        return [e for e in found if id(e) not in ages or ages[id(e)] & named]

    @staticmethod
    def _with_its_no(tokens: list[Token], edge: Edge) -> Edge:
        """The "no" of "closed - no access" belongs to the value and denies nothing."""
        value = edge.value
        if edge.category != "V" or not isinstance(value, Values) or not value.partly or not edge.start:
            return edge
        said = " ".join(t.lower for t in tokens[edge.start - 1 : edge.end])
        denied = tokens[edge.start - 1].lower in ("no", "not", "non", "without", "never")
        if denied and all(re.search(rf"\b{re.escape(said)}\b", str(v).lower()) for v in value.values):
            return dataclasses.replace(edge, start=edge.start - 1, score=max(edge.score, 0.93))
        return edge

    @staticmethod
    def _until_the_first(found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """The first response time runs until the first response, where a day is called so; the word ranks nothing."""
        longer = []
        for edge in found:
            length = edge.value.expr if edge.category == "E" and isinstance(edge.value, Measured) else None
            if not isinstance(length, m.Length) or not isinstance(length.end, m.Col) or not edge.start:
                continue
            before = tokens[edge.start - 1].lower
            if before in ("first", "last") and before in name_parts(length.end.key.column):
                longer.append(dataclasses.replace(edge, start=edge.start - 1, score=edge.score + 0.1))
        return longer

    def _orders_of_lines(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """How many orders there were is how many of their numbers, and not of their lines."""
        for edge in found:
            value = edge.value
            table = value.table if edge.category == "T" and isinstance(value, Noun) else None
            key = self.dockets.get(table) if table is not None else None
            word = tokens[edge.start]
            said = word.stem if edge.end == edge.start + 1 and not word.lower.endswith(("ed", "ing")) else ""
            if key is not None and said in DOCKETS:
                yield Edge("C", edge.start, edge.end, Noun(key=key), 0.98)
                led = edge.start > 0 and tokens[edge.start - 1].lower in ("and", "add", "plus", "also")
                if led or (edge.end < len(tokens) and tokens[edge.end].lower in ("per", "by", "each", "every")):
                    counted = Worked(m.Aggregated("distinct", m.Col(key)))
                    yield Edge("Q", edge.start, edge.end, counted, 0.98)
                yield dataclasses.replace(edge, score=edge.score - 0.4)
            else:
                yield edge

    def _of_one_kind(self, tokens: list[Token], edge: Edge) -> Edge:
        """Goals are those of both sides, where nothing says at home or away."""
        value = edge.value
        kind = self.kinds.get(value.key) if isinstance(value, Noun) and value.key is not None else None
        if kind is None or kind in {t.lower for t in tokens[edge.start : edge.end]}:
            return edge
        return dataclasses.replace(edge, score=edge.score - 0.35)

    def _either_side(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """The matches of the Swans are those at home and those away, where no word says which."""
        said = {t.stem for t in tokens} | {t.lower for t in tokens}
        for key, other in self.sides:
            if said & {*self.vocabulary.columns[key].parts, *self.vocabulary.columns[other].parts, "from", "to"}:
                continue
            for edge in found:
                value = edge.value
                if edge.category == "V" and isinstance(value, Values) and value.column == key and not value.partly:
                    such = m.Any((m.Is(key, value.values), m.Is(other, value.values)))
                    start = edge.start - (edge.start > 0 and tokens[edge.start - 1].lower == "the")
                    start -= start > 0 and tokens[start - 1].lower in ("by", "for", "of", "with", "involving")
                    yield Edge("K", start, edge.end, Part(such, "value"), min(edge.score + 0.03, 0.99))

    def _those_under(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Who reports to E003 has E003 as a manager, where people and who leads them stand in one table."""
        for edge in found:
            value = edge.value
            if edge.category != "V" or not isinstance(value, Values):
                continue
            words = [t.lower for t in tokens[max(edge.start - 2, 0) : edge.start]]
            size = next((len(p) for p in _LED_BY if tuple(words[-len(p) :]) == p), 0)
            if not size:
                continue
            table = self.vocabulary.table(value.column.table)
            leading = (
                ColumnKey(table.name, c.name)
                for c in table.columns
                if c.type is Type.TEXT and _LEADERS & {*self.vocabulary.columns[ColumnKey(table.name, c.name)].parts}
            )
            key = next(
                (k for k in leading if set(map(str, value.values)) <= set(self.vocabulary.column(k).values)), None
            )
            if key is not None:
                such = Part(m.Is(key, value.values), "value")
                yield Edge("K", edge.start - size, edge.end, such, 0.98)

    def _plans_unasked(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """What stands in a budget, or was to be, is meant where the question speaks of one, and not where what came of it would do."""
        if not (self.planned or self.estimates) or any(t.stem in OFFERED for t in tokens):
            return found
        made = []
        for edge in found:
            less = 0.3 if _table_of(edge.value) in self.planned else 0.2 if self._is_estimate(edge.value) else 0.0
            made.append(dataclasses.replace(edge, score=edge.score - less) if less else edge)
        return made

    def _is_estimate(self, value: object) -> bool:
        match value:
            case Noun(key=key):
                return key in self.estimates
            case Top(by=m.Col(key=key)):
                return key in self.estimates
            case _:
                return False

    def _is_who_for(self, tokens: list[Token], edge: Edge) -> bool:
        """True for a word taken for a column that says for whom or by whom what it is like was done: charged to."""
        key = edge.value.key if edge.category == "C" and isinstance(edge.value, Noun) else None
        if key is None or edge.end > edge.start + 1 or name_parts(key.column)[-1] not in ("to", "by", "from", "for"):
            return False
        return tokens[edge.start].stem not in self.vocabulary.columns[key].parts

    def _happens(self, table: str | None) -> bool:
        """True for a table whose rows have a date that is no birthday."""
        time = self.vocabulary.table(table).time_column if table is not None else None
        return table is not None and time is not None and not is_birth(self.vocabulary, ColumnKey(table, time.name))

    def _without_faint(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """Litres are the column called so, and not who milked; nights are a number, and no bookings.

        Donations, where some appointments ended in one, are these, and not whoever gives them.
        """
        exact = {
            (e.start, e.end, e.category)
            for e in found
            if e.category in ("M", "C", "D", "F")
            and e.score >= 0.97
            and isinstance(e.value, Noun)
            # How many units there are is no "Unit £".
            and (e.value.key is None or self.vocabulary.column(e.value.key).role is not Role.SCORE)
        }

        valued = {
            (e.start, e.end)
            for e in found
            if e.category == "V"
            and e.score >= 0.88
            and isinstance(e.value, Values)
            and not e.value.partly
            # People, where a department is called so, may be people all the same.
            and " ".join(t.lower for t in tokens[e.start : e.end]) not in [str(v).lower() for v in e.value.values]
        }

        def meant(edge: Edge) -> bool:
            if self._is_rate_of_another(tokens, edge):
                return False
            if edge.score >= _DIM or edge.category not in ("M", "C", "D", "F", "T"):
                return True
            key = edge.value.key if isinstance(edge.value, Noun) else None
            said = {t.stem for t in tokens[edge.start : edge.end]}
            if key is not None and said & {*self.vocabulary.columns[key].parts}:
                # The same column of other rows is called so too.
                return True
            if edge.category in ("T", "C") and (edge.start, edge.end) in valued:
                return False
            if edge.score >= _FAINT or (
                edge.category == "T" and (not edge.start or tokens[edge.start - 1].lower != "by")
            ):
                return True
            others = "M" if edge.category == "T" else "MCDF"
            return not any((edge.start, edge.end, c) in exact for c in others)

        return [e for e in found if meant(e)]

    def _is_rate_of_another(self, tokens: list[Token], edge: Edge) -> bool:
        """True for a price taken for the rate of "refund rate": what is called otherwise is a rate by itself alone."""
        key = edge.value.key if isinstance(edge.value, Noun) else None
        if edge.category != "M" or key is None or not edge.start or edge.end > edge.start + 1:
            return False
        before = tokens[edge.start - 1]
        bare = before.kind != "word" or before.lower in lexicon.fillers() or before.lower in _BEFORE_A_RATE
        return (
            tokens[edge.start].lower in ("rate", "rates")
            and not bare
            and stem("rate") not in self.vocabulary.columns[key].parts
        )

    def _is_of_periods(self, edge: Edge) -> bool:
        values = edge.value
        return isinstance(values, Values) and are_periods(self.vocabulary.column(values.column).values)

    def _is_of_people(self, table: str) -> bool:
        """True for a table of people, in no role of theirs."""
        called = {part.removesuffix("s") for part in name_parts(table)[-1:]}
        return table not in self.vocabulary.copies and bool(called & _WHO_COME_AND_GO)

    def _ages_of_the_named(self, found: list[Edge]) -> list[Edge]:
        """The age of the fleet is that of the vehicles, and not of those who hire them."""
        rows = [(e.start, t) for e in found if e.category == "T" and e.score >= 0.7 and (t := _table_of(e.value))]
        if not self.ages.keys() & {table for _, table in rows}:
            return found

        def is_of_others(edge: Edge) -> bool:
            aged = edge.category == "E" and isinstance(edge.value, Measured) and isinstance(edge.value.expr, m.Length)
            if not aged or not isinstance(edge.value.expr.end, m.Today):
                return False
            own = {t for start, t in rows if edge.end < start <= edge.end + 2} or {table for _, table in rows}
            return not m.tables_in(edge.value) & own

        return _less_sure(found, 0.35, is_of_others)

    def _in_roles(self, found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """What stands on a table in one of several roles is meant where the question says that role."""
        roles = self.vocabulary.roles
        if not roles:
            return found
        said = {t.lower.removesuffix("s") for t in tokens} | {w for t in tokens for w in (t.lower, t.stem)}
        asked = {t for t, words in self.role_names.items() if words & said}
        made = []
        for edge in found:
            table = _table_of(edge.value)
            if table in roles and edge.category in ("T", "C", "D", "M", "F", "V", "DT", "E"):
                other = table in self.vocabulary.copies
                if table in asked:
                    edge = dataclasses.replace(edge, score=edge.score + 0.04)
                elif other or asked & self._siblings(table):
                    placed = edge.category == "V" and edge.start and tokens[edge.start - 1].lower in _ENDS
                    edge = dataclasses.replace(edge, score=edge.score - (0.02 if placed else 0.3 if other else 0.15))
            if edge.category in ("F", "STATE") and edge.start and tokens[edge.start - 1].lower in _ENDS:
                # Sailings to islands are those that reach one, and none that leave one.
                table = min(m.tables_in(edge.value.condition), default="") if isinstance(edge.value, Part) else table
                end = _ENDS[tokens[edge.start - 1].lower]
                if table in roles and roles[table] & (_LEFT | _REACHED):
                    edge = dataclasses.replace(edge, score=edge.score + (0.3 if roles[table] & end else -0.4))
            made.append(edge)
        return made

    def _role_named(self, span: list[Token], start: int, end: int) -> Iterator[Edge]:
        """The departure airport is what the origin of a flight points at; so is a destination, and its zone the end zone."""
        for link in self.vocabulary.catalogue.relationships:
            words = self.vocabulary.roles.get(link.other)
            own = self.vocabulary.copies.get(link.other, link.other)
            if words is None or not words & {stem(p) for p in name_parts(link.column)}:
                continue
            if not (words & {span[0].stem} or any(words & {*ws} and span[0].stem in ws for ws in _ROLES)):
                continue
            if len(span) == 2 and span[1].stem in self.vocabulary.tables[own].parts:
                yield Edge("C", start, end, Noun(key=ColumnKey(link.table, link.column)), 0.97)
            elif len(span) == 2:
                for score, key in self.vocabulary.columns_for((span[1].stem,)):
                    if score >= 0.9 and key.table == link.other:
                        yield from self._column(key, 1.05, start, end)
            elif span[0].stem in _WHERETO and not any(
                s >= 0.8 for s, _ in self.vocabulary.columns_for((span[0].stem,))[:1]
            ):
                naming = self.vocabulary.table(link.other).naming_column
                key = ColumnKey(link.other, naming.name) if naming else ColumnKey(link.table, link.column)
                yield Edge("C", start, end, Noun(key=key), 0.95)

    def _siblings(self, table: str) -> set[str]:
        """The tables that are the same one in other roles."""
        copies = self.vocabulary.copies
        own = copies.get(table, table)
        return {t for t in self.vocabulary.roles if copies.get(t, t) == own and t != table}

    def _is_named_so(self, token: Token) -> bool:
        """True for a word for a share that a measure is called by here."""
        if token.lower not in ("weight", "weights"):
            return False
        return any(
            s >= 0.85 and self.vocabulary.column(k).is_measure for s, k in self.vocabulary.columns_for((token.stem,))
        )

    def _in_place(self, edge: Edge, tokens: list[Token]) -> Edge:
        """What the word before says of an edge: "which day" asks for a day, and "per seat" divides by seats."""
        before = tokens[edge.start - 1].lower if edge.start else ""
        value = edge.value
        if edge.category == "STATE" and isinstance(value, Part) and isinstance(value.condition, m.Compared):
            held_against = value.condition.right
            said = {t.stem for t in tokens[edge.start : edge.end]}
            if isinstance(held_against, m.Col) and said & set(self.vocabulary.columns[held_against.key].parts):
                # Over budget is over the budget, and not over what was forecast.
                return dataclasses.replace(edge, score=edge.score + 0.04)
        if edge.category == "COUNT" and edge.start and tokens[edge.start].lower == "number":
            numbers = self.vocabulary.columns_for((tokens[edge.start - 1].stem, stem("number")))[:1]
            if any(score >= 0.85 and not self.vocabulary.column(key).is_measure for score, key in numbers):
                # A phone number is no number of phones.
                return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category == "HAVING" and edge.end < len(tokens) and edge.end == edge.start + 1:
            if tokens[edge.start].lower in ("have", "has", "had") and tokens[edge.end].lower in _ASKERS:
                # What have we sold: nothing that is had.
                return dataclasses.replace(edge, score=edge.score - 0.6)
        if edge.category == "V" and before in _ASKED_OF and tokens[edge.start].text == tokens[edge.start].lower:
            if edge.end == edge.start + 1 and tokens[edge.start].lower.rstrip("s") in UNITS:
                return dataclasses.replace(edge, score=edge.score - 0.45)
        if edge.category in ("C", "D") and edge.end == edge.start + 1 and isinstance(value, Noun) and value.key:
            word = tokens[edge.start].lower
            if word in _PERIODS_OF and word not in name_parts(value.key.column):
                # Monthly is for each month, and no column of months.
                return dataclasses.replace(edge, score=edge.score - 0.3)
        after = tokens[edge.end].lower if edge.end < len(tokens) else ""
        if edge.category == "V" and edge.end == edge.start + 1 and after in _WHEN and isinstance(value, Values):
            word = tokens[edge.start].lower
            if word.endswith("ed") and not any(str(v).lower().endswith("ed") for v in value.values):
                # Opened in 2024 is when, and no state of being open.
                return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category == "V" and edge.end == edge.start + 1 and tokens[edge.start].lower.rstrip("s") in UNITS:
            if (
                isinstance(value, Values)
                and not any(str(v).lower().startswith(tokens[edge.start].lower + " ") for v in value.values)
                and not any(str(v).lower() == tokens[edge.start].lower for v in value.values)
            ):
                # The month is no monthly payment.
                return dataclasses.replace(edge, score=edge.score - 0.45)
        if edge.category == "V" and edge.end == edge.start + 1 and tokens[edge.start].lower in _PERIODS_OF:
            following = self.vocabulary.tables_for((tokens[edge.end].stem,))[:1] if edge.end < len(tokens) else []
            if following and following[0][0] >= 0.9 and isinstance(value, Values):
                if following[0][1] != value.column.table:
                    # Monthly claims are told by the month, whatever is paid monthly.
                    return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "T" and isinstance(value, Noun) and value.table in self.told_by_name and before != "many":
            kept = edge.end == edge.start + 1 and tokens[edge.start].stem in self.kept
            return dataclasses.replace(edge, score=edge.score - (0.8 if kept else 0.4))
        if edge.category == "C" and edge.end == edge.start + 1 and tokens[edge.start].lower in _PAID:
            if isinstance(value, Noun) and value.key and tokens[edge.start].lower not in name_parts(value.key.column):
                # What was paid is not how somebody pays.
                return dataclasses.replace(edge, score=edge.score - 0.45)
        if edge.category == "T" and edge.end == edge.start + 1 and before not in ("many", "of", "no", "no.", "all"):
            table = value.table if isinstance(value, Noun) else None
            if (
                table is not None
                and (tokens[edge.start].stem in (INCOME_WORDS | SPENDING_WORDS) or tokens[edge.start].lower in _PAID)
                and (self.vocabulary.has_money(table) or self.taken_in.get(table) is not None)
                and not {t.lower for t in tokens} & _ROWS_ASKED
            ):
                # Sales by beer are told in money, where "how many sales" counts them.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if (
            edge.category == "T"
            and before in ("a", "an", "any")
            and isinstance(value, Noun)
            and value.table is not None
        ):
            earlier = tokens[edge.start - 2].lower if edge.start > 1 else ""
            named = self.vocabulary.tables[value.table].parts == (tokens[edge.start].stem,)
            if edge.end == edge.start + 1 and named and earlier in ("had", "have", "has", "having", "with"):
                # That had a claim: one of the rows.
                return dataclasses.replace(edge, score=1.08)
        if edge.category == "STATE" and edge.end == edge.start + 1 and after in _RUNNING:
            if tokens[edge.start].lower == "running":
                return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category == "M" and edge.end > edge.start + 2 and tokens[edge.end - 2].lower == "of":
            if (tokens[edge.end - 1].lower,) in self.states and edge.end < len(tokens):
                # The paid amount of settled claims is that of the settled ones.
                return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category in "CM" and isinstance(value, Noun) and value.key is not None and edge.end == edge.start + 1:
            around = {t.lower.removesuffix("s") for t in tokens[max(edge.start - 2, 0) : edge.end + 2]}
            named = "year" in around or any((t.number or 99) <= 31 for t in tokens[edge.end : edge.end + 2])
            if not named and self._comes_again(value.key, tokens):
                return dataclasses.replace(edge, score=edge.score - 3)
        if edge.category == "V" and isinstance(value, Values) and after and tokens[edge.start].text.istitle():
            written = [str(v) for v in value.values]
            if edge.end == edge.start + 1 and tokens[edge.end].text.istitle() and all(w.isupper() for w in written):
                # San Francisco is not what has the code SAN.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "V" and before == "many" and isinstance(value, Values) and value.partly:
            # How many prizes there are asks for no title with a prize in it.
            if self.vocabulary.column(value.column).role in (Role.NAME, Role.TEXT):
                return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category in ("M", "C") and edge.end == edge.start + 1 and tokens[edge.start].lower == "people":
            if before in ("can", "could", "do", "did", "does", "would", "should", "when", "where", "if", "how"):
                # What people could expect is asked of nobody in particular.
                return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category == "M" and isinstance(value, Noun) and value.key is not None and edge.score < 0.9:
            told = self.vocabulary.column(value.key)
            priced = told.role is Role.MONEY or bool({*name_parts(value.key.column)} & _PRICED_BY)
            sought = _SOUGHT & {*self.vocabulary.columns[value.key].parts}
            if sought and not _SOUGHT & {t.stem for t in tokens}:
                # Money is what was given, and not what was asked for.
                return dataclasses.replace(edge, score=edge.score - 0.04)
            if not priced and _is_held_against_money(tokens, edge.end):
                # Products under ten pounds are no number of them.
                return dataclasses.replace(edge, score=edge.score - 0.6)
        if edge.category in "CM" and isinstance(value, Noun) and value.key is not None and edge.end == edge.start + 1:
            coin = tokens[edge.start].stem
            counted = edge.start > 0 and tokens[edge.start - 1].number is not None
            if counted and coin in CURRENCIES and coin not in self.vocabulary.columns[value.key].parts:
                # Over sixty pounds says of no column that it is the one.
                return dataclasses.replace(edge, score=edge.score - 0.6)
        if edge.category == "C" and before in ("most", "least") and after and tokens[edge.start].lower.endswith("ed"):
            if edge.end == edge.start + 1 and tokens[edge.start].lower in lexicon.verbs():
                # The most borrowed book is borrowed most often, by however many.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        led = tokens[edge.start - 2].lower if before in ("the", "its", "their") and edge.start > 1 else before
        if edge.category == "D" and edge.score < 0.95 and led in ("over", "under", "above", "below", "beyond"):
            # Over the quote is over what was quoted, and not over the days of the quotes.
            return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "STATE" and before == "longest":
            return dataclasses.replace(edge, score=edge.score - 0.5)
        if (
            edge.category == "STATE"
            and edge.end == edge.start + 1
            and after in ("us", "me", "most", "the", "more", "over")
        ):
            if any(v.kind == "money" for v in lexicon.verbs().get(tokens[edge.start].lower, ())):
                # Who paid us the most is asked of amounts, and not of what is paid.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "SUP" and edge.end == edge.start + 1 and tokens[edge.start].lower == "last":
            said = {t.lower for t in tokens[: edge.start]}
            if said & {"do", "does", "did"} and "long" in said and after not in UNITS:
                # How long do they last.
                return dataclasses.replace(edge, score=edge.score - 0.6)
        if edge.category == "C" and before == "per" and isinstance(value, Noun) and value.key is not None:
            if self.vocabulary.column(value.key).is_measure:
                return dataclasses.replace(edge, score=edge.score - 0.35)
        if edge.category in ("V", "STATE") and after in _WHEN and edge.end == edge.start + 1:
            said_of = value.condition if isinstance(value, Part) else value
            standing = said_of.column if isinstance(said_of, (Values, m.Is)) else None
            day = tokens[edge.end + 1] if edge.end + 1 < len(tokens) else None
            dated = day is not None and (day.number is not None or (day.lower in TIME_WORDS and day.lower != "time"))
            if standing is not None and dated and self._is_day_called(tokens[edge.start].stem, standing.table):
                # Sown in 2025 are those of that day, whatever came of them since.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if tokens[edge.start].lower in ("running", "rolling") and edge.category not in ("RUNNING", "MOVING", "BES"):
            said_then = tokens[edge.start + 1].lower if edge.start + 1 < len(tokens) else ""
            if said_then in ("total", "totals", "sum", "count", "balance", "tally", "average", "mean"):
                # A running total is none of the runs.
                return dataclasses.replace(edge, score=edge.score - 1)
        if edge.category == "MV" and after == "us" and isinstance(value, Noun) and value.key is not None:
            paid = tokens[edge.start].lower in ("pay", "pays", "paid")
            if paid and COST_PARTS & {*self.vocabulary.columns[value.key].parts}:
                # What people pay us is no cost of ours.
                return dataclasses.replace(edge, score=edge.score - 0.3)
        if edge.category in ("M", "C") and after == "by" and tokens[edge.end - 1].lower in _SPLITTING:
            # Guests counted by year are counted, and no number of guests.
            return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "C" and before == "who" and tokens[edge.start].lower.endswith("ed"):
            key = value.key if isinstance(value, Noun) else None
            if key is not None and self.vocabulary.column(key).type is Type.TEXT:
                # People who commented did so, and are not split by it.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "SHARE" and self._is_named_so(tokens[edge.start]):
            # The weight of a dog is no share of it.
            return dataclasses.replace(edge, score=edge.score - 1)
        if edge.category == "TIME" and before in ("headcount", "staffing") and tokens[edge.start].lower == "today":
            # The headcount today is of those who are there.
            return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category == "C" and (edge.start, edge.end, after) == (0, 1, "of") and tokens[0].lower == "list":
            # A list of objectives is asked for, whatever column is called List.
            return dataclasses.replace(edge, score=edge.score - 0.6)
        if edge.category == "STATE" and edge.start > 1 and before in ("we", "they", "you", "i"):
            if tokens[edge.start - 2].lower in ("have", "had", "did"):
                # What we have paid is no state of what is paid.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "STATE" and tokens[edge.start].lower == "here" and before == "in":
            # What is in here is all there is, and not what is here now.
            return dataclasses.replace(edge, score=edge.score - 0.5)
        if edge.category == "MV" and before in ("can", "can't", "cannot", "cant"):
            # What they can use is no number of what was used.
            return dataclasses.replace(edge, score=edge.score - 0.3)
        if edge.category == "D" and edge.end == edge.start + 1 and tokens[edge.start].lower in STUFF and before != "of":
            # The harvest of a year is what was brought in, before it is when.
            return dataclasses.replace(edge, score=edge.score - 0.2)
        if edge.category == "LIST" and edge.end == edge.start + 1 and before in _BEFORE_THINGS:
            meant = self.vocabulary.columns_for((tokens[edge.start].stem,))[:1]
            if meant and meant[0][0] >= 0.85:
                # Which show sold most asks for shows.
                return dataclasses.replace(edge, score=edge.score - 1)
        if (
            edge.category == "LIST"
            and tokens[edge.start].lower == "all"
            and before in ("of", "for", "across", "in", "over")
        ):
            # The rent of all of them asks for no list.
            return dataclasses.replace(edge, category="IDLE", value="")
        acting = edge.category == "C" and edge.end == edge.start + 1 and tokens[edge.start].lower in lexicon.verbs()
        if (edge.category == "DOER" or acting) and edge.start > 1 and tokens[0].lower in ("which", "what"):
            asked = self.vocabulary.columns_for((tokens[edge.start - 1].stem,))[:1]
            if asked and asked[0][0] >= 0.9:
                # Which make sells fastest asks for makes, and not for who sold them.
                return dataclasses.replace(edge, score=edge.score - 2.0)
        if edge.category == "C" and edge.end == edge.start + 1 and isinstance(value, Noun) and value.key is not None:
            called, word = name_parts(value.key.column), tokens[edge.start].lower
            if (
                len(called) > 1
                and called[-1] in ("by", "via", "on", "at")
                and word == called[0]
                and word.endswith("ed")
            ):
                if after in ("for", "on", "in", "at", "this", "last", "next", "before", "after", "since"):
                    # Tables booked for tomorrow ask for no way of booking.
                    return dataclasses.replace(edge, score=edge.score - 0.6)
        if (
            edge.category == "T"
            and isinstance(value, Noun)
            and value.table in self.diaries
            and edge.end == edge.start + 1
        ):
            if tokens[edge.start].stem == self.diaries[value.table]:
                # The rows of a vehicle log are no vehicles.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if edge.category == "N" and before in ("than", "least") and tokens[edge.start].lower in ("once", "twice"):
            # More than once is how often, and no amount.
            return dataclasses.replace(edge, score=edge.score - 0.4)
        if (
            edge.category in ("SUP", "MOST", "MOSTC", "MOSTADJ")
            and before == "at"
            and tokens[edge.start].lower in ("least", "most")
        ):
            # At least ten is a bound.
            return dataclasses.replace(edge, score=edge.score - 3)
        if edge.category in ("C", "T", "M") and tokens[edge.start].lower in _ORDERING and before in _BIDDING:
            if after in _WHAT_IS_ORDERED and edge.end == edge.start + 1:
                # Sort it is no sort of donation.
                return dataclasses.replace(edge, score=edge.score - 2.0)
        if edge.category == "C" and edge.end == edge.start + 1 and isinstance(value, Noun) and value.key is not None:
            word = tokens[edge.start].lower
            named = tokens[edge.start].stem in self.vocabulary.columns[value.key].parts
            numbered = self.vocabulary.column(value.key).role is Role.IDENTIFIER
            done = word.endswith("ed") and word in lexicon.verbs() and numbered
            if done or (word in _PAST and not named):
                # What somebody gave is no kind of gift, and what was claimed no number of a claim.
                return dataclasses.replace(edge, score=edge.score - 0.4)
        if (
            edge.category in ("M", "MV")
            and before in _SHARING
            and tokens[edge.start].lower in ("take", "takes", "get", "gets")
        ):
            # What percentage take breakfast is of those who do, and of no takings.
            return dataclasses.replace(edge, score=edge.score - 2.0)
        if edge.category == "MV" and isinstance(value, Noun) and value.key is not None:
            word = tokens[edge.start].lower
            column = self.vocabulary.column(value.key)
            if word in _SELLING and column.role is Role.MONEY and _asks_how_much(tokens, edge.start):
                # How much was sold is told in money, where how many were sold counts them.
                return dataclasses.replace(edge, score=edge.score + 0.15)
            if word in ("cost", "costs") and before:
                rows = self.vocabulary.tables_for((tokens[edge.start - 1].stem,))[:1]
                priced = "price" in self.vocabulary.columns[value.key].parts
                if priced and rows and rows[0][0] >= 0.9 and rows[0][1] == value.key.table:
                    # What a product costs is its price.
                    return dataclasses.replace(edge, score=edge.score + 0.3)
        return edge

    @staticmethod
    def _doings_named(found: list[Edge], tokens: list[Token]) -> Iterator[Edge]:
        """Attendance is how many attended: the rows of that state, told by a noun."""
        for edge in found:
            word = tokens[edge.start].lower
            value = edge.value
            if edge.category != "V" or edge.end != edge.start + 1 or not isinstance(value, Values) or value.partly:
                continue
            held = _words_of(str(v) for v in value.values)
            if word not in held and word.endswith(("ance", "ances")) and edge.score > 0.6:
                such = m.Aggregated("count", table=value.column.table, where=(m.Is(value.column, value.values),))
                yield Edge("Q", edge.start, edge.end, Worked(such), 0.95)

    def _as_written(self, edge: Edge, tokens: list[Token]) -> Edge:
        """What was cancelled is told by when it was, where that stands in a column, and by no claim for a cancellation."""
        word = tokens[edge.start].lower
        if edge.category != "V" or edge.end != edge.start + 1 or not isinstance(edge.value, Values):
            return edge
        passed = self._passed(edge.value, tokens, edge) if tokens[edge.start].stem == stem("pass") else ()
        if passed:
            return dataclasses.replace(edge, value=Values(edge.value.column, passed))
        held = _words_of(str(v) for v in edge.value.values)
        rows = self.vocabulary.tables_for((tokens[edge.start].stem,))
        if word in _UNITS_SAID and word not in {str(v) for v in edge.value.values}:
            # A day is none of what has the code DAY.
            return dataclasses.replace(edge, score=edge.score - 0.6)
        if word not in held and any(t == edge.value.column.table and score >= 0.86 for score, t in rows):
            # Ten enrolments are rows, and none of them need be "enrolled".
            return dataclasses.replace(edge, score=edge.score - 2.0)
        named = word not in held and word in self._time_words
        return dataclasses.replace(edge, score=edge.score - 0.35) if named else edge

    def _passed(self, value: Values, tokens: list[Token], edge: Edge) -> tuple[str, ...]:
        """Whoever got a merit passed too: every result but a fail, where "pass" is the least of several."""
        column = self.vocabulary.column(value.column)
        told = {v: set(re.findall(r"[a-z]+", v.lower())) for v in column.values}
        better = any(words & _HONOURS for words in told.values())
        said = tokens[edge.start].lower != "pass" or [t.lower for t in tokens[edge.end : edge.end + 1]] == ["rate"]
        if not better or not said:
            return ()
        return tuple(v for v, words in told.items() if words & {*_HONOURS, "pass", "passed"})

    def _weighed(self, edge: Edge) -> Edge:
        """A word of a table that only explains others is seldom meant where others have one too."""
        value = edge.value
        match value:
            case Noun(key=ColumnKey(table=table)) | Noun(table=str(table)) | Values(column=ColumnKey(table=table)):
                if table in self.vocabulary.dictionaries:
                    return dataclasses.replace(edge, score=edge.score - 0.3)
                if table in self.vocabulary.shared:
                    return dataclasses.replace(edge, score=edge.score - 0.06)
            case _:
                pass
        return edge

    def _single(self, tokens: list[Token], start: int, token: Token) -> Iterator[Edge]:
        end = start + 1
        if token.kind == "quoted":
            yield Edge("QUOTED", start, end, token.text, 0.95)
        elif token.kind == "word" and len(token.text) == 1 and self._is_spelled_out(tokens, start):
            # Starting with A: a letter, and no article.
            yield Edge("QUOTED", start, end, token.text, 0.95)
        sized = self._sized(tokens, start)
        yield from sized
        hyphened = bool(sized) and tokens[start + 1].start == token.end
        if token.number is not None and not hyphened:
            yield Edge("N", start, end, token.number, 0.9 if token.kind == "number" else 0.6)
        if token.kind == "clock" and (at := clock(token.text)):
            yield Edge("CLOCK", start, end, at, 0.95)
        if token.kind == "word" and token.lower not in _LEADING_TO:
            # A word that is a value here is less likely to be any word at all.
            named = (token.stem,) in self.vocabulary.values and token.lower not in lexicon.verbs()
            yield Edge("W", start, end, token.text, 0.1 if named else 0.3)
        if (
            token.lower == "year"
            and _LISTING & {t.lower for t in tokens[:start]}
            and tokens[start - 1].lower in _LISTED
        ):
            for key, words in self.vocabulary.columns.items():
                if is_yearly(self.vocabulary.column(key)) and not BIRTH & {*words.full, *words.described}:
                    yield Edge("C", start, end, Noun(key=key), 0.7)
        after = [t.lower for t in tokens[end : end + 2]]
        if token.lower in ("came", "come", "comes", "coming") and after[:1] == ["in"]:
            for verb in lexicon.verbs().get("came", ()):
                for score, key in self.vocabulary.columns_of_ideas(verb.ideas, numeric=False, dated=True)[:2]:
                    # An order comes in when it is made, and not when it is delivered.
                    own = self.vocabulary.table(key.table).time_column
                    first = own is not None and own.name == key.column
                    yield Edge("D", start, end + 1, Noun(key=key), score + 0.04 * first)
        if token.lower in lexicon.adjectives()[2] and after[:1] == ["to"] and after[1:2] in _MADE:
            # The cheapest to make is told by what making it cost.
            adjective = lexicon.adjectives()[2][token.lower]
            if adjective.ideas[:1] == ("price",):
                for score, key in self.vocabulary.columns_of_ideas(_MAKING, numeric=True)[:2]:
                    yield Edge("SUP", start, end + 2, Top(adjective.up, by=m.Col(key), typical=True), score)
        if token.lower == "have" and [w for w in after if w != "the"][:1] in (["most"], ["least"]):
            for score, key in self.vocabulary.columns_of_ideas(_HELD, numeric=True)[:2]:
                width = (
                    2
                    + (after[0] == "the")
                    + (tokens[min(end + 1 + (after[0] == "the"), len(tokens) - 1)].lower == "of")
                )
                yield Edge("SUP", start, start + width, Top("most" in after, by=m.Col(key)), score)
        yield from self._manner(tokens, start)
        if token.lower == "longest" and "been" in [t.lower for t in tokens[max(start - 5, 0) : start]]:
            yield from self._serving(start, end)
        if token.kind == "word" and token.lower.count("-") == 1:
            yield from self._compounded(token.lower, start, end)
        if (
            token.lower in ("date", "dates")
            and start
            and tokens[start - 1].lower in ("the", "and", ",", "its", "their")
        ):
            # The date of what is listed is when it happened.
            for name in self.vocabulary.tables:
                if (time := self.vocabulary.table(name).time_column) is not None:
                    yield Edge("D", start, end, Noun(key=ColumnKey(name, time.name)), 0.75)
        if token.lower == "why":
            for key, words in self.vocabulary.columns.items():
                if _REASONS & {*words.parts} and self.vocabulary.column(key).type is Type.TEXT:
                    yield Edge("G", start, end, Grouped(Noun(key=key)), 0.8)
        for key in self.lost if token.lower in _GONE or token.lower in _STAYING else ():
            yield Edge("STATE", start, end, Part(m.Is(key, (token.lower in _GONE,)), "state"), 0.93)
        if token.lower in _HEADS and start and tokens[start - 1].lower == "per":
            yield from (Edge("E", start, end, Measured(m.Col(key)), 0.9) for key in self.people[:3])

    def _compounded(self, word: str, start: int, end: int) -> Iterator[Edge]:
        """High-priority is what has a high priority, and pets-allowed where pets are allowed."""
        first, last = word.split("-")
        stems = (stem(first), stem(last))
        for score, key in self.vocabulary.columns_for((stems[1],))[:3]:
            for value in self.vocabulary.values.get((stems[0],)).get(key, ()) if score >= 0.6 else ():
                yield Edge("V", start, end, Values(key, (value,)), 0.95)
        for key, values in self.vocabulary.values.get((stem(first + last),)).items():
            yield Edge("V", start, end, Values(key, tuple(values)), 0.92)
        for score, key in self.vocabulary.columns_for(stems)[:1]:
            if score >= 0.9 and self.vocabulary.column(key).type is Type.BOOLEAN:
                yield Edge("F", start, end, Noun(key=key), 0.95)
            elif score >= 0.55 and {*stems} <= {*self.vocabulary.columns[key].parts}:
                # A follow-up is what a column says is required.
                yield from self._column(key, max(score, 0.9), start, end)

    def _manner(self, tokens: list[Token], start: int) -> Iterator[Edge]:
        """How it was paid, how they booked: by which means, where a column says that."""
        words = [t.lower for t in tokens[start : start + 4]]
        if words[:1] != ["how"] or len(words) < 3 or words[1] not in ("it", "they", "he", "she", "we", "people"):
            return
        end = start + (4 if words[2] in ("is", "was", "were", "are", "have", "had") and len(words) == 4 else 3)
        verb = stem(tokens[end - 1].lower)
        for key, named in self.vocabulary.columns.items():
            parts = {*named.parts, *named.described[:4]}
            if self.vocabulary.column(key).type is Type.TEXT and parts & _MEANS:
                said = any(lexicon.related(verb, p) for p in parts)
                yield Edge("C", start, end, Noun(key=key), 0.95 if said else 0.8)

    def _modified(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Advert cost, where the table is of adverts and has their cost: the word before says nothing more."""
        weak = {
            (e.end, _table_of(e.value))
            for e in found
            if e.category in ("M", "C", "F") and 0.3 <= e.score < 0.6 and e.end == e.start + 1
        }
        strong = {e.end for e in found if e.score >= 0.6 and e.category in ("M", "C", "D", "T", "V", "STATE", "F")}
        for edge in found:
            table = _table_of(edge.value)
            if edge.category == "M" and edge.score >= 0.65 and (edge.start, table) in weak and edge.start not in strong:
                yield dataclasses.replace(edge, start=edge.start - 1, score=edge.score - 0.05)
        # Ticket sales are what the tickets brought in.
        counted = {(e.end, _table_of(e.value)): e.start for e in found if e.category == "M" and self._is_quantity(e)}
        for edge in found:
            start = counted.get((edge.start, _table_of(edge.value)))
            word = tokens[edge.start]
            money = edge.category in ("M", "E") and word.stem in MONEY_WORDS and edge.score >= 0.5
            if start is not None and money and word.lower not in lexicon.verbs() and not self._is_quantity(edge):
                yield dataclasses.replace(edge, start=start, score=max(edge.score, 0.85))

    def _as_they_stand(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """Each open project is one that is open, and no day on which one was opened."""
        states = {(e.start, e.end) for e in found if e.category == "STATE"}
        rows = {e.start for e in found if e.category == "T" and e.score >= 0.6}

        def is_day(edge: Edge) -> bool:
            if edge.category not in ("C", "D") or (edge.start, edge.end) not in states or edge.end not in rows:
                return False
            key = edge.value.key if isinstance(edge.value, Noun) else None
            said = {t.lower for t in tokens[edge.start : edge.end]}
            return key is not None and self.vocabulary.column(key).type.is_time and not said & {*name_parts(key.column)}

        return _less_sure(found, 0.45, is_day)

    def _taken_in(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """Sales are what they come to, also where their rows stand in a table of sales; how many, and which, is asked in words."""
        if {t.lower for t in tokens} & _ROWS_ASKED:
            return found
        rows = {(e.start, e.end): e.value.table for e in found if e.category == "T" and isinstance(e.value, Noun)}

        def is_income(edge: Edge) -> bool:
            table = rows.get((edge.start, edge.end))
            if table is None or edge.category not in ("E", "M") or tokens[edge.start].stem not in INCOME_WORDS:
                return False
            expr = _measured_by(edge)
            return expr is not None and expr == self.taken_in.get(table)

        taken = {(e.start, e.end) for e in found if is_income(e)}
        counted = {p + 1 for p, t in enumerate(tokens) if t.lower in ("many", "of", "no", "no.", "all")}
        taken -= {span for span in taken if span[0] in counted}
        found = _less_sure(found, 0.12, lambda e: e.category == "T" and (e.start, e.end) in taken)
        return [dataclasses.replace(e, score=max(e.score, 1.08)) if is_income(e) else e for e in found]

    def _not_taken_back(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """A quantity that stands in a table of sales and in one of returns is that of the sales, where nothing says returns."""
        said = {t.stem for t in tokens}
        back = {t for t in self.taken_back if not said & {*self.vocabulary.tables[t].parts}}
        if not back:
            return found
        spans: dict[tuple[int, int, str], set[str]] = {}
        for edge in found:
            for key in m.columns_in(edge.value) if edge.category in ("E", "M", "MV", "C") else ():
                spans.setdefault((edge.start, edge.end, key.column), set()).add(key.table)

        def is_of_returns(edge: Edge) -> bool:
            keys = m.columns_in(edge.value) if edge.category in ("E", "M", "MV", "C") else []
            return any(k.table in back and spans[edge.start, edge.end, k.column] - back for k in keys)

        return _less_sure(found, 0.15, is_of_returns)

    def _is_quantity(self, edge: Edge) -> bool:
        key = edge.value.key if isinstance(edge.value, Noun) else None
        return key is not None and edge.score >= 0.9 and self.vocabulary.column(key).role is Role.QUANTITY

    def _dates_done(self, tokens: list[Token]) -> Iterator[Edge]:
        """The date raised is the raised date."""
        for place, (one, two) in enumerate(itertools.pairwise(tokens)):
            if one.lower in ("date", "dates") and two.kind == "word" and _is_participle_like(two.lower):
                for score, key in self.vocabulary.columns_for((two.stem, stem("date")))[:2]:
                    if score >= 0.8 and self.vocabulary.column(key).type.is_time:
                        yield Edge("D", place, place + 2, Noun(key=key), score)

    def _reversed(self, tokens: list[Token]) -> Iterator[Edge]:
        """The delay at departure is the departure delay, and the reason for a referral the referral reason."""
        for place in range(1, len(tokens) - 1):
            if tokens[place].lower not in ("at", "on", "in", "for", "upon"):
                continue
            one, two = tokens[place - 1], tokens[place + 1]
            if one.kind != "word" or two.kind != "word" or {one.lower, two.lower} & lexicon.fillers():
                continue
            for score, key in self.vocabulary.columns_for((two.stem, one.stem))[:2]:
                column = self.vocabulary.column(key)
                if score >= 0.95 and (column.is_measure or column.role is Role.CATEGORY):
                    yield Edge("M" if column.is_measure else "C", place - 1, place + 2, Noun(key=key), score - 0.03)

    @staticmethod
    def _is_spelled_out(tokens: list[Token], place: int) -> bool:
        """True for what follows words such as "starts with" or "the letter"."""
        before = [t.lower for t in tokens[max(place - 2, 0) : place]]
        return before[-1:] == ["letter"] or (before[-1:] in (["with"], ["in"], ["by"]) and before[0][:4] in _SPELLING)

    def _sized(self, tokens: list[Token], start: int) -> list[Edge]:
        """A two-bed flat has two beds: a number and, without a blank between, what there are so many of."""
        token, after = tokens[start], tokens[start + 1] if start + 1 < len(tokens) else None
        if token.number is None or after is None or after.kind != "word":
            return []
        if after.lower in UNITS or after.lower.rstrip("s") in UNITS or after.lower in lexicon.units():
            return []
        if after.start != token.end and (after.lower.endswith("s") or token.number < 2 or after.lower in _COUNTLESS):
            return []
        found = []
        for score, key in self.vocabulary.columns_for((after.stem,)):
            if score >= 0.6 and self.vocabulary.column(key).is_measure:
                part = Part(m.Compared("=", m.Col(key), m.Number(token.number)), "number")
                found.append(Edge("K", start, start + 2, part, min(0.97, score + 0.1)))
        return found

    def _numbered(self, tokens: list[Token]) -> Iterator[Edge]:
        """A job no, where a column is called so: that is no job that is lacking."""
        for place, token in enumerate(tokens[1:], 1):
            if token.lower not in ("no", "nr", "num") or tokens[place - 1].kind != "word":
                continue
            before = tokens[place - 1].stem
            for key in self.vocabulary.columns:
                name = name_parts(key.column)
                if len(name) == 2 and stem(name[0]) == before and name[1] in ("no", "nr", "num", "number"):
                    yield Edge("C", place - 1, place + 1, Noun(key=key), 1.06)

    def _plans_named(self, found: list[Edge]) -> Iterator[Edge]:
        """The plans that are named, with what came of them."""
        for edge in found:
            key = edge.value.key if edge.category in ("C", "M") and isinstance(edge.value, Noun) else None
            if key in self.plans:
                yield Edge("PLAN", edge.start, edge.end, Plan(m.Col(key), self.plans[key]), edge.score)

    def _coins(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Each euro that was spent, or that something cost: what all of them come to."""
        for place, token in enumerate(tokens):
            if token.lower not in _COINS:
                continue
            behind = place + 2 if place + 1 < len(tokens) and tokens[place + 1].lower in ("of", "in") else place + 1
            for edge in found:
                money = _measured_by(edge) if edge.category in ("E", "M", "C") and edge.start == behind else None
                keys = m.columns_in(money) if money is not None else []
                if money is not None and keys and all(self._is_of_money(k) for k in keys):
                    yield Edge("COIN", place, edge.end, Measured(money), edge.score)
            said = [t.lower for t in tokens[place + 1 : place + 5]]
            spent = next((n for n in range(len(said), 0, -1) if tuple(said[:n]) in _SPENT), 0)
            if self.in_and_out is not None:
                end, sure = place + 1 + spent, 0.95 if spent else 0.6
                yield Edge("COIN", place, end, Measured(self.in_and_out[1]), sure)
                came, went = (m.Aggregated("sum", side) for side in self.in_and_out)
                yield Edge("BACK", place, end, Worked(m.Combined("/", came, went)), sure)

    def _kinds_of_levels(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Countries, in a list of countries and their regions with the level of each, are those of that level."""
        links = {link.own: link for link in self.own_links.values()}
        named = [e for e in found if e.category == "V" and isinstance(e.value, Values)]
        for edge in named:
            column = edge.value.column
            naming = self.vocabulary.table(column.table).naming_column
            if edge.score < 0.7 or naming is None or not _LEVELS & {*name_parts(column.column)}:
                continue
            such = (Noun(table=column.table), Part(m.Is(column, edge.value.values), "value"))
            yield Edge("NPX", edge.start, edge.end, such, 1.05)
            yield Edge("LEVEL", edge.start, edge.end, such, 1.05)
            of = edge.end + 1 if edge.end < len(tokens) and tokens[edge.end].lower in ("of", "in", "within") else None
            link = links.get(column.table)
            for other in named:
                # The regions of a country are those that point at it.
                if (
                    link is not None
                    and other.start == of
                    and other.value.column in (ColumnKey(column.table, naming.name), link.name)
                ):
                    above = Part(m.Is(link.name, other.value.values), "value")
                    for category in ("NPX", "LEVEL"):
                        yield Edge(category, edge.start, other.end, (*such, above), 1.1)

    def _statements_named(self, tokens: list[Token]) -> Iterator[Edge]:
        """The statements of a survey, and that somebody agrees."""
        if self.statements is None:
            return
        for place, token in enumerate(tokens):
            if token.stem in _RATED_THINGS:
                several = token.lower.endswith("s")
                rated = dataclasses.replace(self.statements, several=several)
                yield Edge("STMT", place, place + 1, rated, 0.95)
                if several:
                    yield Edge("STMTS", place, place + 1, rated, 0.95)
            if self.blanks is not None and token.lower in _BLANK:
                named = place + 1 < len(tokens) and tokens[place + 1].lower in _ANSWERS
                if named or token.lower == "blanks":
                    yield Edge("BLANKS", place, place + 1 + named, self.blanks, 0.95)
            for size in (4, 3, 2, 1):
                said = tuple(t.lower for t in tokens[place : place + size])
                if len(said) == size and said in self.agreements:
                    yield Edge("AGREE", place, place + size, self.agreements[said], 0.9)
                    break

    def _told_of_ratings(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """The recommend score is what was said of recommending, and people are no ratings of statements."""
        rated = self.rated
        for edge in found if rated else ():
            before = edge.value.key if edge.category == "M" and isinstance(edge.value, Noun) else None
            scored = edge.end < len(tokens) and tokens[edge.end].lower in _SCORES
            if before is not None and before.table not in rated and scored and edge.score >= 0.5:
                column = self.vocabulary.column(before)
                if column.type is Type.INTEGER and column.high is not None and int(column.high) <= _HIGHEST_GRADE:
                    yield dataclasses.replace(edge, end=edge.end + 1, score=max(edge.score, 1.0))
        for edge in found:
            rows = edge.value.table if edge.category == "T" and isinstance(edge.value, Noun) else None
            if rows not in rated or {t.stem for t in tokens[edge.start : edge.end]} & _OF_RATINGS:
                yield edge

    def _own_links_named(self, tokens: list[Token]) -> Iterator[Edge]:
        """Where others of the same table are spoken of: their manager, or reporting to somebody, who is no word itself."""
        for place, token in enumerate(tokens):
            said = {token.lower, token.stem}
            link = next((link for word, link in self.own_links.items() if word in said), None)
            if link is not None:
                start = place - (place > 0 and tokens[place - 1].lower in ("line", "direct"))
                yield Edge("ROLE", start, place + 1, link, 0.95)
            to = token.lower in ("to", "for", "under", "directly", "them", "him", "her")
            if to and (link := next(iter(self.own_links.values()), None)) is not None:
                yield Edge("REPORTED", place, place + 1, link, 0.9)

    def _is_of_money(self, key: ColumnKey) -> bool:
        column = self.vocabulary.column(key)
        return column.role is Role.MONEY or column.role is Role.QUANTITY

    def _keyed(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Customer 7, invoices 1001 to 1005: rows by the number that tells them apart."""
        for edge in found:
            table = edge.value.table if edge.category == "T" and edge.score >= 0.8 else None
            key = self.vocabulary.table(table).key if table is not None else None
            if table is None or key is None or key.type is not Type.INTEGER or key.low is None or key.high is None:
                continue
            place = edge.end + (edge.end < len(tokens) and tokens[edge.end].lower in ("no", "number", "nr", "#"))
            numbers = [t.number for t in tokens[place : place + 3]]
            if not numbers or not self._may_be(key, numbers[0]):
                continue
            column = ColumnKey(table, key.name)
            such: m.Condition = m.Is(column, (int(numbers[0] or 0),))
            end = place + 1
            if len(numbers) == 3 and tokens[end].lower in ("to", "-", "until") and self._may_be(key, numbers[2]):
                ends = (">=", numbers[0]), ("<=", numbers[2])
                such = m.All(tuple(m.Compared(op, m.Col(column), m.Number(float(n or 0))) for op, n in ends))  # type: ignore[arg-type]
                end += 2
            yield Edge(
                "KEYED", edge.start, end, (Noun(table=table), Part(such, "value")), 0.97 if edge.score > 0.9 else 0.9
            )

    def _payments(self) -> tuple[m.Expr, ...]:
        """What was paid, of a table of payments with one amount; those of no day are still to be paid."""
        found: list[m.Expr] = []
        for name, words in self.vocabulary.tables.items():
            amount, day = (payment_in(self.vocabulary, name) if words.head == "payment" else None) or (None, None)
            if amount is None:
                continue
            settled = (
                m.Is(ColumnKey(name, c.name), paid)
                for c in self.vocabulary.table(name).columns
                if (paid := tuple(v for v in c.values if str(v).lower() == "paid"))
            )
            done = m.Not(m.Missing(day)) if day is not None else next(settled, None)
            found.append(m.Given(amount, done) if done is not None else amount)
        return tuple(found) if len(found) == 1 else ()

    def _as_they_pay(self, found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """What customers spend, or visits bring in, is what was charged for them, and not what they cost the house."""
        lowers = [t.lower for t in tokens]
        buyers = [t for t, w in self.vocabulary.tables.items() if BUYERS & {*w.parts}]
        named = "who" in lowers or any(BUYERS & {t.stem} for t in tokens)
        spend = {p for p, w in enumerate(lowers) if w in PAYING}
        ours = {"we"} if "us" in lowers else {"we", "our"}
        if not buyers or not named or ours & {*lowers}:
            # What we spend went out, and what they pay us came in.
            spend = set()
        earn = {p for p, w in enumerate(lowers) if w in _BRINGS or w in _EARNS}
        earn |= {p for p, w in enumerate(lowers) if w in _MAKES and ("we" in lowers or "money" in lowers)}
        came_in = any(one in _COMES and two == "in" for one, two in itertools.pairwise(lowers))
        earn |= {p for p, w in enumerate(lowers) if w == "money" and (earn or came_in)}
        if not spend and not earn:
            return found
        path = self.vocabulary.catalogue.path

        charges = any(
            c.role is Role.MONEY and not COST_PARTS & {*self.vocabulary.columns[ColumnKey(t.name, c.name)].parts}
            for t in self.vocabulary.catalogue.tables
            if any(path(t.name, b) is not None for b in buyers)
            for c in t.columns
        )

        def is_cost(edge: Edge) -> bool:
            said = {*range(edge.start, edge.end)}
            if not said & (spend | earn) or edge.category not in ("E", "MV", "M", "Q"):
                return False
            keys = m.columns_in(edge.value)
            charged = any(
                c.role is Role.MONEY and not PAID_FOR_THEM & {*name_parts(c.name)}
                for k in keys
                for c in self.vocabulary.catalogue.table(k.table).columns
            )
            if charged and all(PAID_FOR_THEM & {*name_parts(k.column)} for k in keys):
                return True
            if said & earn and any(self.vocabulary.is_outgoing(k.table) for k in keys):
                return True
            theirs = any(k.table == b or path(k.table, b) is not None for k in keys for b in buyers)
            costs = charges and bool(keys) and all(COST_PARTS & {*self.vocabulary.columns[k].parts} for k in keys)
            return bool(said & spend) and (costs or not theirs)

        def is_charged(edge: Edge) -> bool:
            """What those who buy were charged is what they spend, and no cost of repairs on the way."""
            keys = m.columns_in(edge.value)
            if charges and all(COST_PARTS & {*self.vocabulary.columns[k].parts} for k in keys):
                return False
            named = {*range(edge.start, edge.end)} <= spend and edge.category in ("E", "MV", "M") and bool(keys)
            theirs = all(any(path(k.table, b) is not None for b in buyers) for k in keys)
            money = all(self.vocabulary.column(k).role is Role.MONEY for k in keys)
            return named and theirs and money and not is_cost(edge)

        return _less_sure(_less_sure(found, 0.3, is_cost), -0.2, is_charged)

    @staticmethod
    def _may_be(key: Column, number: float | None) -> bool:
        return number is not None and number.is_integer() and float(key.low or 0) <= number <= float(key.high or 0)

    def _rows_beside(self, tokens: list[Token], start: int, end: int) -> set[str]:
        """The tables whose rows are named right after some words, or before them with a small word between at most."""
        small = lexicon.fillers() | {"who", "that", "which", "have", "has", "had"}
        before = [t for t in tokens[max(start - 4, 0) : start] if t.lower not in small][-1:]
        nouns = [t.stem for t in (*before, *tokens[end : end + 1]) if t.kind == "word"]
        return {
            table
            for noun in nouns
            for score, table in self.vocabulary.tables_for((noun,))
            if score >= (0.7 if noun in SOME_PEOPLE else 0.86)
        }

    def _cost_of(self, what: str) -> Iterator[m.Expr]:
        """What some thing costs, of a table that is called so or has a column of its kinds: the costs of the vet, of feed."""
        spent = [expr for expr, _ in self.derived.get(("spend",), ()) if isinstance(expr, m.EXPRESSIONS)]
        for table, words in self.vocabulary.tables.items():
            kinds = any(
                w.parts == (what,) and k.table == table and not self.vocabulary.column(k).is_measure
                for k, w in self.vocabulary.columns.items()
            )
            if (words.parts[:1] != (what,) and not kinds) or len(words.parts) < 1:
                continue
            own = [k for k, w in self.vocabulary.columns.items() if k.table == table and _COST_STEMS & set(w.parts)]
            money = [m.Col(k) for k in own if self.vocabulary.column(k).role is Role.MONEY]
            worked = [e for e in spent if {k.table for k in m.columns_in(e)} == {table}]
            yield from (*money, *worked)[:1]

    def _both_named(self, tokens: list[Token]) -> Iterator[Edge]:
        """The max and the min temperature: the first word stands for a name whose other half comes last."""
        for start in range(len(tokens) - 3):
            one, joined, two, last = tokens[start : start + 4]
            if joined.lower not in ("and", "&", "to", "or") or any(t.kind != "word" for t in (one, two, last)):
                continue
            first, second = (
                next(
                    (
                        k
                        for said in dict.fromkeys((w.stem, stem(_EXTREMES.get(w.lower, w.lower))))
                        for s, k in self.vocabulary.columns_for((said, last.stem))[:1]
                        if s >= 0.9
                    ),
                    None,
                )
                for w in (one, two)
            )
            if first is not None and second is not None and first != second and first.table == second.table:
                if all(self.vocabulary.column(k).is_measure for k in (first, second)):
                    yield Edge("M", start, start + 1, Noun(key=first), 1.0)

    def _manners(self, tokens: list[Token]) -> Iterator[Edge]:
        """How people book, where a column is called "how booked"."""
        if not tokens or tokens[0].lower != "how":
            return
        for key in self.vocabulary.columns:
            words = [stem(w) for w in re.findall(r"[a-z]+", key.column.lower())]
            for place, token in enumerate(tokens[1:], 1) if words[:1] == [stem("how")] and len(words) > 1 else ():
                if token.stem == words[1]:
                    yield Edge("G", 0, 1, Grouped(Noun(key=key)), 0.95)
                    yield Edge("IDLE", place, place + 1, "", 0.9)

    def _percentages(self, tokens: list[Token]) -> Iterator[Edge]:
        """The percentage of pupils with free meals, where it stands in a column: that column, and no share worked out."""
        for start, token in enumerate(tokens[:-2]):
            if token.lower not in _PERCENTAGES or tokens[start + 1].lower != "of":
                continue
            for key, words in self.vocabulary.columns.items():
                own = set(words.parts) - _PERCENT_STEMS
                told = self.vocabulary.column(key).role is Role.PERCENTAGE or own != set(words.parts)
                if not own or not told or not self.vocabulary.column(key).is_measure:
                    continue
                beside = {s for k, w in self.vocabulary.columns.items() if k.table == key.table for s in w.parts}
                beside |= {*self.vocabulary.tables[key.table].parts}
                for end in range(start + 3, min(start + 8, len(tokens)) + 1):
                    stems = {t.stem for t in tokens[start + 2 : end] if t.lower not in lexicon.fillers()}
                    last = tokens[end - 1].stem
                    if own <= stems and stems - own <= beside and last in own:
                        yield Edge("M", start, end, Noun(key=key), 0.99)

    def _span(self, tokens: list[Token], start: int, end: int) -> Iterator[Edge]:
        span = tokens[start:end]
        lowers = tuple(t.lower for t in span)
        bonus = 0.01 * (len(span) - 1)
        for category, payload in _operating(lowers):
            yield Edge(category, start, end, payload, 0.9 + bonus)
        yield from self._adjective(lowers, start, end)
        for meaning, score in self.derived.get(lowers, ()):
            if isinstance(meaning, QUANTITIES):
                yield Edge("Q", start, end, Worked(meaning), score)
            else:
                yield Edge("E", start, end, Measured(meaning), score)
        # Now the average: what comes first goes on with what was asked before.
        if lowers in _NOW and not (start == 0 and lowers == ("now",)):
            for _, condition, score in self.states.get(("active",), ()):
                yield Edge("NOW", start, end, Part(condition, "state"), score + bonus)
        if states := self.states.get(lowers):
            # Open vacancies are open themselves, whatever else is open that belongs to them.
            own = self._rows_beside(tokens, start, end) & {table for table, _, _ in states}
            amounts = [t.lower for t in tokens[:2]] == ["how", "much"]
            path = self.vocabulary.catalogue.path
            below = [t for t in self.vocabulary.tables if amounts and any(path(t, s) for s, _, _ in states)]
            for table, condition, score in states:
                less = 0.3 * bool(own and table not in own)
                # How much has been paid out is told by what was, where that stands there, or by payments below.
                less += 0.2 * (amounts and self._has_money_called(table, span[-1].stem))
                less += 0.35 * any(self._has_money_called(t, span[-1].stem) for t in below)
                yield Edge("STATE", start, end, Part(condition, "state"), score + bonus - less)
        if any(t.kind in ("quoted", "clock") for t in span):
            return
        if len(span) == 1 and (glued := _GLUED_UNIT.fullmatch(span[0].text)) is not None:
            # 32A of a column whose numbers stand with an A behind.
            for key in self.vocabulary.columns:
                if self.vocabulary.column(key).unit == glued[2]:
                    such = m.Compared("=", m.Col(key), m.Number(float(glued[1])))
                    yield Edge("K", start, end, Part(such, "number"), 0.9)
        yield from self._figures(span, start, end)
        if lowers in (("time",), ("times",)):
            # A time of day that stands in the data is a time before a length of time is.
            for key in self.clocks:
                yield Edge("C", start, end, Noun(key=key), 0.92)
        if len(span) == 2 and lowers[0] == "how":
            yield from self._how_much_so(lowers[1], start, end)
        others = {t.lower for t in (*tokens[max(start - 1, 0) : start], *tokens[end : end + 1])}
        if lowers in (("leavers",), ("leaver",)) and not others & {"too", "also", "included", "including", "incl"}:
            # Leavers are those who have a day on which they left.
            for verb in lexicon.verbs().get(lowers[0], ()):
                for score, key in self.vocabulary.columns_of_ideas(verb.ideas, numeric=False, dated=True)[:2]:
                    if self.vocabulary.column(key).missing and key.table not in self.vocabulary.roles:
                        left = Part(m.Not(m.Missing(key)), "state")
                        yield Edge("NPX", start, end, (Noun(table=key.table), left), score + 0.15)
                        yield Edge("STATE", start, end, left, score)
        if start == 0 and len(span) == 1 and lowers[0] == "what" and len(tokens) > 2 and tokens[1].lower in _SELLING:
            yield from self._what_is_sold(end)
        if len(span) == 2 and lowers[1] == "for" and lowers[0] in _GOING_FOR:
            # What homes sell for is their price.
            for score, key in self.vocabulary.columns_of_ideas((stem("price"),), numeric=True)[:3]:
                if not COST_PARTS & {*self.vocabulary.columns[key].parts}:
                    yield Edge("MV", start, end, Noun(key=key), score + 0.05)
        if len(span) == 2 and lowers[1] in _KIND_WORDS_ALONE and span[0].kind == "word":
            yield from self._kind_of_what(lowers[0], lowers[1], start, end)
        if lowers in (("people",), ("persons",)) and not _STAFFING & {t.lower for t in tokens}:
            yield from self._had_on_them(start, end)
        if lowers == ("person",) and start and tokens[start - 1].lower == "by":
            yield from self._who_did(start, end)
        if len(span) == 1 and lowers[0] in _LOSING:
            # What a firm lost is its profit, told the other way round.
            for key, words in self.vocabulary.columns.items():
                column = self.vocabulary.column(key)
                if _PROFITS & {*words.parts} and column.is_measure and float(column.low or 0) < 0:
                    lost = m.Arithmetic("*", m.Col(key), m.Number(-1))
                    yield Edge("E", start, end, Measured(lost, verb=True), 0.8)
        if len(span) == 1 and span[0].stem in self.kept:
            yield Edge("M", start, end, Noun(key=self.kept[span[0].stem]), 0.93)
        if len(span) == 1 and span[0].stem in self.rows_by_column and not is_participle(lowers[0]):
            rows = self.rows_by_column[span[0].stem]
            # Quotes are what was quoted before they are the jobs.
            yield Edge("T", start, end, Noun(table=rows), 0.6 if self._amounts_to(span[0].stem, rows) else 0.9)
        if len(span) == 1 and span[0].stem in self.rows_by_kind and lowers[0].endswith("s"):
            yield Edge("T", start, end, Noun(table=self.rows_by_kind[span[0].stem]), 0.8)
        if lowers in (("headcount",), ("head", "count")):
            yield from self._heads_counted(start, end)
        if len(span) == 1 and span[0].kind == "word":
            yield from self._doers(span[0], start, end)
            yield from self._heard(span[0], start, end)
        first = start - 1 - (start > 1 and tokens[start - 1].lower in ("the", "a"))
        before = tokens[first].lower if first >= 0 else ""
        if before == "for" and first and tokens[first - 1].lower in _BOUND:
            before = "to"
        one = start > 0 and tokens[start - 1].lower in _ONE_OF
        sign = tokens[end].text if end < len(tokens) and tokens[end].text in ("+", "-") else ""
        if sign == "-" and (tokens[end].start != span[-1].end or tokens[end].end == _begins(tokens, end + 1)):
            # A dash between words, and no mark such as A-.
            sign = ""
        alone = end >= len(tokens) or tokens[end].kind == "symbol" or tokens[end].lower in _BEHIND_A_LETTER
        yield from self._values(span, start, end, before, sign=sign, alone=alone)
        coded = any(ch.isdigit() for w in lowers for ch in w) and span[0].kind == "word"
        if len(span) > 2 or coded or (len(span) == 2 and any(_works(w) for w in lowers)):
            # A name that holds small words, or words for what is worked out, is one where it stands whole:
            # households with no car, and the longest wait min.
            for key in self.spelled.get(lowers, ()):
                yield from self._column(key, 0.95 + 0.05 * len(span), start, end)
            if len(span) == 2 and lowers not in self.spelled:
                # The max temperature is a column that is called temp max.
                said = ({t.stem for t in span}, {stem(_EXTREMES.get(w) or lexicon.expanded(w)) for w in lowers})
                for key, words in self.vocabulary.columns.items():
                    if len(words.full) == 2 and {*words.full} in said:
                        yield from self._column(key, 1.05, start, end)
        if len(span) == 2 and lowers[1] in _COSTS and span[0].kind == "word":
            for expr in self._cost_of(span[0].stem):
                yield Edge("E", start, end, Measured(expr), 1.0)
        if len(span) == 3 and lowers[1] == "per" and lowers[2].rstrip("s") in _PERIODIC:
            # Rent per week is the weekly rent.
            for key, words in self.vocabulary.columns.items():
                asked = {span[0].stem, stem(_PERIODIC[lowers[2].rstrip("s")])}
                if self.vocabulary.column(key).is_measure and asked <= {*words.full, *words.described}:
                    yield Edge("M", start, end, Noun(key=key), 0.98 if asked <= {*words.full} else 0.88)
        if len(span) == 2 and lowers[0] in _PERIODIC.values() and span[1].stem in _PAID_AT | MONEY_WORDS:
            # Hourly pay is the hourly rate.
            for key, words in self.vocabulary.columns.items():
                each = {stem(lowers[0]), span[0].stem} & {*words.full} and _PAID_AT & {*words.full}
                if each and self.vocabulary.column(key).is_measure:
                    yield Edge("M", start, end, Noun(key=key), 0.96)
        if len(span) == 3 and lowers[1] == "per" and lowers[2] in _HEADS:
            for key in self.per_head:
                if span[0].stem in self.vocabulary.columns[key].parts:
                    yield Edge("M", start, end, Noun(key=key), 0.98)
        if before in _ASKED_OF or before in (",", "and", "many"):
            if len(span) == 1 and lowers[0] in lexicon.fillers():
                for key in self.spelled.get(lowers, ()) or self.spelled.get((lowers[0].removesuffix("s"),), ()):
                    yield from self._column(key, 0.95, start, end)
        following = tokens[end].lower if end < len(tokens) else ""
        if lowers[-1] in _NOUNS_TOO and following in _AFTER_A_NOUN and span[0].kind == "word":
            # The makes of cars, or car makes, where a column is called so.
            plain = len(span) == 1 or (
                len(span) == 2 and lowers[0] not in lexicon.fillers() and not any(_operating(lowers[:1]))
            )
            for key in self.spelled.get((lowers[-1].removesuffix("s"),), ()) if plain else ():
                yield from self._column(key, 0.97, start, end)
        if len(span) == 3 and lowers[0].rstrip("s") in _KIND_WORDS and lowers[1] == "of":
            for key, words in self.vocabulary.columns.items():
                of = self.vocabulary.tables[key.table]
                meant = span[2].stem in (*of.parts, *words.described) or bool(
                    [t for s, t in self.vocabulary.tables_for((span[2].stem,)) if s >= 0.6 and t == key.table]
                )
                if words.parts in _KIND_NAMES and meant and not self.vocabulary.column(key).is_measure:
                    yield Edge("C", start, end, Noun(key=key), 0.99)
        if len(span) <= 2 and self.vocabulary.roles:
            yield from self._role_named(span, start, end)
        if len(span) == 3 and lowers[1] == "of" and self.vocabulary.roles:
            # The port of departure is the departure port.
            yield from self._role_named([span[2], span[0]], start, end)
        if len(span) == 1 and any(c.isdigit() for c in lowers[0]):
            # PM2.5 is a word of its own, whatever it is made of.
            for key in self._written_as(lowers[0]):
                yield from self._column(key, 1.0, start, end)
        if len(span) == 1 and span[0].kind == "word":
            # Overtime is what a column calls OverTime.
            for key in self.spelled.get(lowers, ()):
                if len(self.vocabulary.columns[key].parts) > 1:
                    yield from self._column(key, 0.97, start, end)
                    if start and tokens[start - 1].lower in _AT_WORK and self.vocabulary.column(key).role is Role.FLAG:
                        # To work overtime says no more than overtime does.
                        yield Edge("STATE", start - 1, end, Part(m.Is(key, (True,)), "state"), 0.97)
        if 2 <= len(span) <= 3 and all(t.kind == "word" for t in span):
            for key in self.spelled.get(("".join(lowers),), ()):
                yield from self._column(key, 0.97, start, end)
        if any(t.number is not None for t in span) and span[0].kind == "word":
            for key in self.coded.get(tuple(t.stem for t in span), ()):
                yield from self._column(key, 1.0, start, end)
        if len(span) == 1 and span[0].lower in lexicon.fillers() and span[0].lower in self.vocabulary.tables:
            # A table may be called by a small word, such as lets.
            yield Edge("T", start, end, Noun(table=span[0].lower), 0.9)
        if len(span) == 1 and _is_small(span[0]):
            for key in self.spelled.get(lowers, ()):
                if self.vocabulary.column(key).type is Type.BOOLEAN:
                    # How many came, where a column says who did.
                    yield from self._column(key, 0.97, start, end)
            # A column may be called by one: how many loaves were made.
            for key in self.done_small.get(span[0].stem, ()):
                yield Edge("DONE", start, end, Noun(key=key), 0.95)
                if is_participle(span[0].lower):
                    yield Edge("PP", start, end, Noun(key=key), 0.95)
        if _is_small(span[0]) or _is_small(span[-1]):
            return
        if any(t.kind in ("date", "symbol") for t in span) or all(t.kind == "number" for t in span):
            return
        if any(_is_small(t) and t.lower not in ("of", "the", "a", "in") for t in span[1:-1]):
            return
        if len(span) > 1 and any(t.lower in _RELATIVE for t in span):
            return
        if any(t.lower in _HELD_APART for t in span[1:-1]):
            # What is asked for against what is given are two.
            return
        if "by" in lowers[1:-1] and any(s >= 0.8 for s, _ in self.vocabulary.columns_for((span[-1].stem,))[:1]):
            # The unemployed by industry are told for each industry, whatever the table is called.
            return
        stems = tuple(t.stem for t in span if not _is_small(t))
        for condition, score in self.gaps.get(stems, ()):
            yield Edge("STATE", start, end, Part(condition, "state"), score + bonus)
        yield from self._by_amount(stems, start, end, before)
        yield from self._names(stems, lowers, start, end, one=one)
        if len(span) == 2 and (whole := stem("".join(lowers))) not in stems:
            # Policy holders are the policyholders.
            for name, words in self.vocabulary.tables.items():
                if words.parts == (whole,):
                    yield Edge("T", start, end, Noun(table=name), 0.97)
        parted = tuple(s for t in span if not _is_small(t) for s in (word_stems(t.lower) or (t.stem,)))
        if parted != stems and any("-" in w for w in lowers):
            # Fly-tipping is of the fly tips, and an e-mail address an email.
            joined = tuple(stem(t.lower.replace("-", "")) for t in span if not _is_small(t))
            if joined[-1:] == ("address",) and len(joined) == 2:
                joined = joined[:1]
            for score, key in (*self.vocabulary.columns_for(parted)[:2], *self.vocabulary.columns_for(joined)[:2]):
                if score >= 0.8:
                    yield from self._column(key, score, start, end)
        # A name may be typed as it is written, in short.
        spelled = tuple(stem(lexicon.expanded(t.lower)) for t in span if not _is_small(t))
        if spelled != stems and not any((t.lower,) in lexicon.phrases() for t in span):
            # A square metre is no place.
            sized = lowers[-1] in lexicon.units()
            named = self._names(spelled, lowers, start, end, one=one)
            yield from (e for e in named if e.category in ("M", "E", "TIMES") or not sized)

    def _by_amount(self, stems: tuple[str, ...], start: int, end: int, before: str) -> Iterator[Edge]:
        """The biggest loan is that of the largest loan amount; how many loans there are is told by the rows that tell it."""
        for key in self.amounted.get(stems, ()):
            if any(score >= 0.86 for score, _ in self.vocabulary.tables_for(stems)[:1]):
                return
            if before == "many":
                yield Edge("T", start, end, Noun(table=key.table), 0.8)
            else:
                yield Edge("M", start, end, Noun(key=key), 0.8)

    def _headed(self, stems: tuple[str, ...], lowers: tuple[str, ...], start: int, end: int) -> Iterator[Edge]:
        """A payment method is the method, where nothing says what else the word before it may be."""
        vocabulary = self.vocabulary
        first = (stems[0],)
        known = (
            stems[0] not in lexicon.concepts()
            or any(
                lowers[0] in words for words in (lexicon.phrase_words(), lexicon.chatter(), lexicon.verbs(), TIME_WORDS)
            )
            or any(lowers[0] in forms for forms in lexicon.adjectives())
            or first in vocabulary.values
            or bool(vocabulary.codes.get(first))
            or lowers[0].endswith(("ive", "ous", "ful", "able", "ible", "al", "ic", "less", "est"))
            or stems[0] in vocabulary.partial
            or lowers[0] in lexicon.demonyms()
        )
        if known or any(score >= 0.6 for score, _ in vocabulary.columns_for(stems)[:1]):
            return
        if any(score >= 0.9 and vocabulary.column(k).is_measure for score, k in vocabulary.columns_for(first)[:2]):
            return
        if lowers[1] in lexicon.verbs() and any(score >= 0.9 for score, _ in vocabulary.columns_for(first)[:1]):
            # Which department raises most is asked of departments.
            return
        for score, key in vocabulary.columns_for((stems[1],))[:3]:
            column = vocabulary.column(key)
            if score >= 0.97 and column.role in (Role.CATEGORY, Role.CODE, Role.PLACE) and lowers[1] not in _SMALL:
                yield from self._column(key, 0.86, start, end)

    def _names(
        self, stems: tuple[str, ...], lowers: tuple[str, ...], start: int, end: int, *, one: bool
    ) -> Iterator[Edge]:
        """What some words may name; `one` where one of something is spoken of, as in a claim or per claim."""
        if len(stems) == 2 and len(lowers) == 2:
            yield from self._headed(stems, lowers, start, end)
        if len(stems) == 1 and stems[0] in KIND_WORDS:
            for key, words in self.vocabulary.columns.items():
                if words.parts == self.vocabulary.tables[key.table].parts and self._tells_kinds(key):
                    # Badges by type are split by which badge it is.
                    yield Edge("C", start, end, Noun(key=key), 0.62)
        if len(lowers) == 1 and lowers[0] in _SMALL:
            for score, table in self.vocabulary.tables_for(stems)[:1]:
                called_after = self.vocabulary.figure_of(table)
                if score >= 0.97 and called_after is not None:
                    # The hours of a table of hours are those that were worked.
                    yield from self._column(called_after, 0.95, start, end)
                elif score >= 0.97:
                    yield Edge("T", start, end, Noun(table=table), 0.55)
            if lowers[0] in _HOURS:
                # The hours stand in a column called time.
                for key, words in self.vocabulary.columns.items():
                    if words.parts in ((stem("time"),), (stem("duration"),)) and self.vocabulary.column(key).is_measure:
                        yield from self._column(key, 0.9, start, end)
            for score, key in self.vocabulary.columns_for(stems)[:3]:
                if self.vocabulary.column(key).is_measure and not lowers[0].endswith("s") and lowers[0] != "time":
                    # Per year is no length in years.
                    continue
                if self.vocabulary.column(key).type.is_time and name_parts(key.column) == [lowers[0].removesuffix("s")]:
                    # A column called month is when its rows happened, which the unit says for all tables.
                    continue
                if score >= 0.97:
                    if tells_when(self.vocabulary.column(key)):
                        # The unit of time says it for all tables at once.
                        score = 0.6
                    yield from self._column(key, score, start, end)
                elif lowers == ("time",) and self.vocabulary.column(key).is_measure and score >= 0.6:
                    # The time that is spent stands in hours.
                    yield from self._column(key, score, start, end)
                elif (
                    self.vocabulary.columns[key].parts[:1] == stems
                    and self.vocabulary.column(key).role in (Role.CODE, Role.CATEGORY)
                    and name_parts(key.column)[-1] not in UNITS
                ):
                    # The year of "Year Group" is no year of the calendar.
                    yield from self._column(key, 0.94, start, end)
            return
        if lowers == ("times",):
            # How many times is a count, and no column of hours.
            return
        if len(lowers) == 1 and lowers[0] in lexicon.prepositions() | {"since", "until", "during"}:
            return
        if len(stems) == 2 and len(lowers) == 2 and lowers[1] in _RECORDS:
            # Rent payments are the rows of a table of rent.
            for score, table in self.vocabulary.tables_for(stems[:1])[:1]:
                if score >= 0.97 and not any(s >= 0.85 for s, _ in self.vocabulary.columns_for(stems)[:1]):
                    yield Edge("T", start, end, Noun(table=table), 0.93)
        whole_name = any(s >= 0.97 for s, _ in self.vocabulary.columns_for(stems)[:1])
        if len(stems) == 2 and len(lowers) == 2 and lowers[1] in _GROUPED and not whole_name:
            # An age group is one of the ages, where these are told in groups.
            for score, key in self.vocabulary.columns_for(stems[:1])[:2]:
                if score >= 0.97 and self.vocabulary.column(key).distinct <= 40:
                    yield Edge("C", start, end, Noun(key=key), 0.96)
        named, by_head = None, False
        changing = len(lowers) > 1 and any(c in _CHANGING for c, _ in lexicon.phrases().get(lowers[:1], ()))
        operating = (
            changing
            or lowers in lexicon.phrases()
            or any(lowers[:n] in lexicon.phrases() for n in range(2, len(lowers)))
        )
        measuring = any(lowers[0] in group for group in (*lexicon.adjectives(), MOST))
        # Words that operate or measure name something only where a name is nearly theirs.
        least = 0.9 if operating or (len(lowers) == 1 and (measuring or lowers[0] in _NO_NAMES)) else 0.0
        valued = any(self.vocabulary.column(k).distinct <= 60 for k in self.vocabulary.values.get(stems))
        for score, table in self.vocabulary.tables_for(stems)[:KEPT]:
            if score < least:
                continue
            if len(stems) > 1 and self._measures_of(table, stems):
                # Parcels delivered are the parcels, and no other word for deliveries.
                continue
            if score < 0.9 and stems[0] in MONEY_WORDS:
                # An amount is no other word for an invoice.
                continue
            called_after = self.vocabulary.figure_of(table)
            if called_after is not None and self.vocabulary.tables[table].parts == stems:
                score -= 0.35
            if score < 0.8 and whole_name:
                # Tenants are the column called so before they are the rows of another table of people.
                score -= 0.3
            if score < 0.9 and len(stems) == 1 and stems[0] in PERSON_WORDS and self._who_is(stems, table):
                # Donors are those who gave, and no donations.
                score -= 0.2
            headed = (
                score >= 0.86
                and (one or lowers[-1].endswith("s"))
                and self.vocabulary.tables[table].parts[-1:] == stems
            )
            if score < 0.9 and not headed and (valued or lowers[0] in lexicon.verbs()):
                # A word that stands as a value is no other word for a table; neither is what is done.
                score -= 0.25 if lowers[0] not in lexicon.verbs() or lowers[0].endswith("s") else 0.45
                if lowers[0] in name_parts(table):
                    score += 0.15
            if table in self.vocabulary.repeated:
                # A row a year for each region: whoever says regions means the regions.
                score -= 0.25
            if len(lowers) == 1 and not lowers[0].endswith("s") and self._measures(stems[0], table):
                # One rent is an amount before it is the rows of rents.
                score -= 0.35
            elif (
                len(lowers) == 1
                and score < 0.9
                and not headed
                and not lowers[0].endswith("s")
                and any(
                    s >= score - 0.1 and k.table == table and self.vocabulary.column(k).is_measure
                    for s, k in self.vocabulary.columns_for(stems)
                )
            ):
                # The yield is what is measured in the harvest, and not its rows.
                score -= 0.2
            if len(lowers) == 1 and not lowers[0].endswith("s") and not one and self._is_measured_in(stems[0], table):
                # Generation is what was generated before it is the rows that tell of it.
                score -= 0.4
            if len(lowers) == 1 and lowers[0].endswith("ed") and not self._is_spelled(lowers[0], table):
                # What was invoiced is no other word for the invoices themselves.
                score -= 0.15 if score >= 0.97 else 0.35
            time = self.vocabulary.table(table).time_column
            if time is not None and not lowers[0].endswith("s"):
                # The month of the performance is that of its day.
                yield Edge("DT", start, end, Noun(key=ColumnKey(table, time.name)), score)
            weight = self.vocabulary.weights.get(table) or self.vocabulary.values_of.get(table)
            if weight is not None and self._is_main_figure(table, weight, stems):
                # Whoever says population means the people, not the rows that tell how many there are.
                yield Edge("E", start, end, Measured(m.Col(weight)), score + 0.02)
            if weight is not None and lowers[0] in STUFF and lowers == tuple(name_parts(table))[-1:]:
                # Household waste is so many tonnes of it.
                yield Edge("E", start, end, Measured(m.Col(weight)), 0.9)
            told = self.vocabulary.main_figures.get(table)
            called = (
                k for s, k in self.vocabulary.columns_for(stems) if s >= 0.9 and self.vocabulary.column(k).is_measure
            )
            if told is not None and all(k == told[1] for k in called if k.table == table):
                # Whoever says claimants means how many there are, and not the rows of figures.
                figure = m.Given(m.Col(told[1]), m.Is(told[0], (told[2],)))
                yield Edge("E", start, end, Measured(figure), score + 0.02)
            yield Edge("T", start, end, Noun(table=table), score - 0.3 * (weight is not None or told is not None))
            if (score >= 0.97 or headed) and named is None:
                named, by_head = table, headed and score < 0.97
        called_so = any(
            s >= 0.97 and self.vocabulary.columns[k].parts == stems for s, k in self.vocabulary.columns_for(stems)[:1]
        )
        for score, key in self.vocabulary.columns_for(stems)[: KEPT + 3]:
            if lowers[-1] == "days" and len(lowers) > 1 and self.vocabulary.column(key).type.is_time:
                # Sick days are so many, and no date of leaving.
                continue
            if stems[0] == stem("age") and is_yearly(self.vocabulary.column(key)):
                # How old people are is not the year in which they ran.
                continue
            if called_so and len(stems) == 1 and score < 0.9 and stems[0] not in self.vocabulary.columns[key].full:
                # By queue is by the column called so, and no wait.
                score -= 0.3
            acted = lowers[0].endswith("s") and (lowers[0] in lexicon.verbs() or not lowers[0].endswith(_DOINGS))
            named_by = _is_participle_like(lowers[0]) or acted
            led = name_parts(key.column)[-1:]
            if stems in (("price",), ("price", "of")) and self._is_dearer_beside(key):
                # Of a price that is asked and one that was paid, the one asked is the price.
                score -= 0.3
            if len(lowers) == 1 and name_parts(key.column)[-2:-1] == ["per"] and stem(led[0]) == stems[0]:
                # A price per litre is no number of litres.
                score -= 0.4
            if len(lowers) == 1 and (led == ["via"] or (not named_by and led == ["by"])):
                # Milked By is who milked, and no milk; and bookings are not what they were booked via.
                score -= 0.45
            if len(lowers) > 1 and lowers[0] in _PERIODS_OF and not self._spells(key, lowers[0]):
                # Monthly patients are told by the month, whatever is treated in one.
                continue
            whole = len(lowers) == 1 and self.vocabulary.columns[key].parts == stems
            if (score < least and not whole) or (measuring and not self.vocabulary.has_word(key, stems[0])):
                continue
            if (
                self.vocabulary.column(key).is_measure
                and stems[0] in _DEALS
                and not (self.vocabulary.has_word(key, stems[0]) and self._is_spelled(lowers[0], key.column))
            ):
                # Orders are things, and what they come to is called otherwise; what was ordered is no order.
                continue
            if (
                self.vocabulary.column(key).is_measure
                and stems[0] in PERSON_WORDS
                and len(lowers) == 1
                and not self.vocabulary.has_word(key, stems[0])
            ):
                # Tenants are no number of people in the household.
                continue
            if lowers[:2] == ("number", "of") and not self.vocabulary.column(key).is_measure:
                continue
            column = self.vocabulary.column(key)
            own_words = {part.removesuffix("s") for part in name_parts(key.column)}
            so_called = column.is_measure or column.type.is_time or lowers[0].removesuffix("s") in own_words
            if by_head and not so_called:
                # An inspection is one of the food inspections before it is who inspected.
                score -= 0.25
            if column.type is Type.BOOLEAN or column.role is Role.FLAG:
                if score < 0.9 and any(
                    s >= 0.97 and t != key.table for part in stems for s, t in self.vocabulary.tables_for((part,))[:1]
                ):
                    # Customers, or what they spent, are no rows that were charged to one.
                    continue
                if len(stems) > 1 and self._are_rows(stems[-1], key):
                    # "Estimated bills" are bills, some of them; the flag is told by its own word alone.
                    continue
                described = stems[0] in self.vocabulary.columns[key].described and stems[0] not in name_parts(
                    key.column
                )
                if stems[0] in SOME_PEOPLE | PERSON_WORDS and described:
                    # People are not those of whom something is so.
                    continue
                if score < 0.85 and len(stems) == 1 and described and self.vocabulary.only_of(stems[0]) == key:
                    # Estimated is said of one column alone.
                    score = 0.85
                denied = set(name_parts(key.column)) & _DENYING
                if denied and not denied & set(lowers):
                    # What is on the fleet is not off it.
                    continue
            if valued and score < 0.85:
                score -= 0.25
            elif len(lowers) == 1 and any(
                v.lower() == lowers[0] != key.column.lower() for v in self.vocabulary.values.get(stems).get(key, ())
            ):
                # Furnished is what stands there before it is another word for furnishing.
                score -= 0.3
            doing = len(lowers) == 1 and lowers[0] in lexicon.verbs() and lowers[0].endswith(("ed", "es", "s", "ing"))
            if doing and not self.vocabulary.column(key).is_measure and not self.vocabulary.has_word(key, stems[0]):
                # Who worked is no task, whatever tasks are.
                score -= 0.3
            if len(lowers) == 1 and lowers[0] in _OFTEN and column.role is Role.MONEY and score < 0.8:
                # What is rented most is so by how often, and not by what renting it cost.
                score -= 0.2
            # "Claims" are the rows of that table before they are what was claimed.
            name = key.column.lower()
            measured = len(lowers) == 1 and self.vocabulary.column(key).is_measure
            if measured and key.table == named and not one and self._is_measured_in(stems[0], named):
                # Fines are the rows before they are what each comes to, where the column is not called so itself.
                plural = lowers[0].endswith("s") and name != lowers[0] and lowers[0] in name_parts(named)
                score = score - 0.3 * plural if lowers[0].endswith("s") else max(score, 0.9)
            elif named is not None and measured and name != lowers[0]:
                score -= 0.3
            if PLANNED & set(self.vocabulary.columns[key].parts) and not PLANNED & set(stems):
                # A budget is no spending, nor a target what was reached.
                score -= 0.25
            if (
                column.type is Type.BOOLEAN
                and len(lowers) == 1
                and (
                    (score >= 0.9 and lowers[0].endswith(_DOINGS_COUNTED))
                    # Penalties, complications: a noun of several that a yes or no is called by.
                    or (
                        score >= 0.7
                        and lowers[0].endswith("s")
                        and {*name_parts(key.column)} - _ASKING_IT == {singular(lowers[0])}
                    )
                )
            ):
                # Enrolments are so many rows on which it says that somebody enrolled.
                such = m.Aggregated("count", None, key.table, (m.Is(key, (True,)),))
                yield Edge("Q", start, end, Worked(such), score)
                if lowers not in lexicon.states():
                    yield Edge("STATE", start, end, Part(m.Is(key, (True,)), "state"), 0.9)
            # Whoever says flights means the rows, not the number of each.
            if len(lowers) == 1 and self._lasts_as_the_rows_do(key, lowers[0]):
                # Skis hired in May are hires, and no days for which they were.
                continue
            own = key.table == named and self.vocabulary.column(key).role in (Role.CODE, Role.IDENTIFIER, Role.LINK)
            money = len(lowers) == 1 and any(v.kind != "time" for v in lexicon.verbs().get(lowers[0], ()))
            if (
                score >= 0.9
                and len(lowers) == 1
                and is_participle(lowers[0])
                and self.vocabulary.column(key).is_measure
            ):
                yield Edge("PP", start, end, Noun(key=key), score)
            if score >= 0.9 and (word := self._of_so_many(key, lowers[-1])):
                yield Edge(word, start, end, Noun(key=key), score)
            if score >= 0.5 and self._is_how_often(key, stems):
                yield Edge("TIMES", start, end, Noun(key=key), score)
            if 0.6 <= score < 0.9 and is_participle(lowers[0]) and self.vocabulary.column(key).is_measure:
                # Scrapped, where a column tells of the scrap.
                yield Edge("PPX", start, end, Noun(key=key), score)
            if score >= 0.9 and len(lowers) == 1 and self._counts_what_is_done(key, lowers[0]):
                yield Edge("DONE", start, end, Noun(key=key), score)
            yield from self._column(key, score - 0.2 * own, start, end, verb=money)
        things = any(s >= 0.85 for s, _ in self.vocabulary.tables_for(stems)[:1]) and lowers[0].endswith("s")
        if (
            len(stems) == 1
            and stems[0] in MONEY_WORDS
            and not (things and stems[0] not in INCOME_WORDS | SPENDING_WORDS)
        ):
            yield from self._generic_money(stems[0], start, end)
        if len(lowers) == 1 and (named is None or not lowers[0].endswith("s")):
            acts = any(verb.kind == "time" for verb in lexicon.verbs().get(lowers[0], ()))
            if acts and lowers not in lexicon.states() and not any(_operating(lowers)):
                yield Edge("ACT", start, end, lowers[0], 0.6)
            counts = any(verb.kind != "money" for verb in lexicon.verbs().get(lowers[0], ()))
            for verb in lexicon.verbs().get(lowers[0], ()):
                if verb.kind == "time":
                    dated = self.vocabulary.columns_of_ideas(verb.ideas, numeric=False, dated=True)[:3]
                    spelled = {key for _, key in dated if stems[0] in self.vocabulary.columns[key].parts}
                    if not spelled and stems[0] in _COMING_AND_GOING:
                        # Who joined did so on a day of theirs, and on no day on which anything of theirs began.
                        spelled = {key for _, key in dated if self._is_of_people(key.table)}
                    for score, key in dated:
                        # Who started has a start date, and is not away from some day on.
                        yield Edge("D", start, end, Noun(key=key), score - 0.2 * bool(spelled and key not in spelled))
                else:
                    if lowers[0] not in _LOADED:
                        yield Edge("VERB", start, end, verb.kind, 0.6)
                    for score, key in self.vocabulary.columns_of_ideas(verb.ideas, numeric=True)[:3]:
                        words = self.vocabulary.columns[key]
                        said = 0.15 * (stems[0] in (*words.parts, *words.described))
                        said -= 0.2 * bool(PLANNED & set(words.parts))
                        if not counts and not said and self.vocabulary.column(key).role is Role.QUANTITY:
                            # What was billed is money, and no number of loaves that were made.
                            said -= 0.15
                        if self._lasts_as_the_rows_do(key, lowers[0]):
                            continue
                        if verb.ideas[:1] == (stem("seen"),) and score < _CALLED_SO_ITSELF:
                            # Who was seen came to be seen, and is no quantity of anything.
                            continue
                        if lowers[0] in PAYING and not self.vocabulary.column(key).role.is_summed:
                            # What was paid is no price of one.
                            said -= 0.2
                        if lowers[0] in _SPENDING and not self.vocabulary.column(key).role.is_summed:
                            # What was spent on copies is all of their prices, and not what one cost on average.
                            spent = Measured(m.Col(key), verb=True, function="sum")
                            yield Edge("E", start, end, spent, score - 0.06 + said)
                            continue
                        yield Edge("MV", start, end, Noun(key=key), score - 0.06 + said)
                    if lowers[0] in PAYING:
                        payments = self.payments if lowers[0].startswith("pa") else ()
                        for amount in payments:
                            yield Edge("E", start, end, Measured(amount, verb=True), 0.94)
                        for meaning, score in self.derived.get(("cost",), ()):
                            if not isinstance(meaning, QUANTITIES):
                                # Who pays most is told by the payments, where they are told of.
                                yield Edge(
                                    "E", start, end, Measured(meaning, verb=True), score - (0.2 if payments else 0.05)
                                )
                    comes_in = stem("refund") not in verb.ideas
                    if (
                        verb.kind == "money"
                        and comes_in
                        and not self.vocabulary.columns_of_ideas(verb.ideas, numeric=True)
                    ):
                        # What is earned is what comes in, whatever that is called.
                        for edge in self._generic_money(stem("income"), start, end):
                            yield dataclasses.replace(edge, category="MV", score=edge.score - 0.06)
                        sold = any(v.kind == "quantity" for v in lexicon.verbs()[lowers[0]])
                        if stem("revenue") in verb.ideas and not sold:
                            for meaning, score in self.derived.get(("revenue",), ()):
                                if not isinstance(meaning, QUANTITIES):
                                    yield Edge("E", start, end, Measured(meaning, verb=True), score - 0.1)

    def _lasts_as_the_rows_do(self, key: ColumnKey, verb: str) -> bool:
        """True for how long each row lasted, of rows that a verb is about: the days hired of hires."""
        lasted = {*name_parts(key.column)} & {"days", "hours", "minutes", "mins", "weeks", "nights", "months"}
        return bool(lasted) and stem(verb) in self.vocabulary.tables[key.table].parts

    def _has_money_called(self, table: str, said: str) -> bool:
        """True for a table with an amount that is called so, or with an amount and the day when it was."""
        columns = self.vocabulary.table(table).columns
        called = [c for c in columns if said in self.vocabulary.columns[ColumnKey(table, c.name)].parts]
        money = any(c.role is Role.MONEY for c in columns)
        return any(c.role is Role.MONEY or (money and c.type.is_time) for c in called)

    def _measures_of(self, table: str, stems: tuple[str, ...]) -> bool:
        """True where one of some words is the whole name of a number of a table, and no word of the table's own name."""
        own = self.vocabulary.tables[table].parts
        return any(
            c.is_measure and self.vocabulary.columns[ColumnKey(table, c.name)].parts == (s,)
            for s in stems
            if s not in own
            for c in self.vocabulary.table(table).columns
        )

    def _counts_what_is_done(self, key: ColumnKey, word: str) -> bool:
        """True for a verb that a column of how many is called by: sell, sold, of the column of those sold."""
        named = [p for p in name_parts(key.column) if is_participle(p)]
        return (
            self.vocabulary.column(key).role is Role.QUANTITY
            and any(stem(p) == stem(word) for p in named)
            and (is_participle(word) or not word.endswith("s"))
        )

    def _tells_kinds(self, key: ColumnKey) -> bool:
        column, rows = self.vocabulary.column(key), self.vocabulary.table(key.table).rows
        return column.type is Type.TEXT and 1 < column.distinct <= 40 and 2 * column.distinct <= rows

    def _is_what_people_pay(self, key: ColumnKey) -> bool:
        """True for what each booking costs, which is what comes in by it, where no other money stands beside it."""
        return bool(_PAID_FOR & {*self.vocabulary.tables[key.table].parts}) and self._only_money(key)

    def _is_dearer_beside(self, key: ColumnKey) -> bool:
        """True for what was paid for a thing, beside the price that it is sold at."""
        if not PAID_FOR_THEM & {*name_parts(key.column)}:
            return False
        others = (name_parts(c.name) for c in self.vocabulary.table(key.table).columns if c.name != key.column)
        return any("price" in parts and not PAID_FOR_THEM & {*parts} for parts in others)

    def _only_money(self, key: ColumnKey) -> bool:
        """True where nothing else on the rows is added up in money, but for what comes on top of it."""
        others = (c for c in self.vocabulary.table(key.table).columns if c.name != key.column)
        words = self.vocabulary.columns
        return not any(
            c.role is Role.MONEY and c.role.is_summed and not EXTRAS & {*words[ColumnKey(key.table, c.name)].parts}
            for c in others
        )

    def _amounts_to(self, word: str, table: str) -> bool:
        """True where a word is the whole name of an amount of money on the rows of a table."""
        money = (c for c in self.vocabulary.table(table).columns if c.is_measure and c.role is Role.MONEY)
        return any(self.vocabulary.columns[ColumnKey(table, c.name)].parts == (word,) for c in money)

    def _who_is(self, stems: tuple[str, ...], table: str) -> bool:
        """True where a column of a table says who is called so, and the table is of no people itself."""
        return not PERSON_WORDS & {*self.vocabulary.tables[table].parts} and any(
            s >= 0.7 and k.table == table and self.vocabulary.column(k).type is Type.TEXT
            for s, k in self.vocabulary.columns_for(stems)
        )

    def _is_main_figure(self, table: str, weight: ColumnKey, stems: tuple[str, ...]) -> bool:
        """True where a table's name stands for its figure: the only one there is, or one that is called alike."""
        added = [c for c in self.vocabulary.table(table).columns if c.is_measure]
        words = self.vocabulary.columns[weight]
        elsewhere = weight.table != table
        return elsewhere or len(added) == 1 or any(s in (*words.parts, *words.described) for s in stems)

    def _is_measured_in(self, word: str, table: str) -> bool:
        """True where a word is what one column of a table measures, such as the stock in a table of stock."""
        own = [
            key
            for key, words in self.vocabulary.columns.items()
            if key.table == table and words.head == word and self.vocabulary.column(key).is_measure
        ]
        return len(own) == 1 and self.vocabulary.tables[table].parts == (word,)

    def _spells(self, key: ColumnKey, word: str) -> bool:
        """True where a word stands so in a column's name or description."""
        column = self.vocabulary.column(key)
        return word in name_parts(key.column) or word in re.findall(r"[a-z]+", column.description.lower())

    @staticmethod
    def _is_spelled(word: str, table: str) -> bool:
        return word in name_parts(table)

    def _measures(self, word: str, table: str) -> bool:
        """True where a word names an amount of another table than the one that is called so."""
        return any(
            key.table != table and self.vocabulary.column(key).is_measure and self.vocabulary.columns[key].head == word
            for _, key in self.vocabulary.columns_for((word,))
        )

    def _figures(self, span: list[Token], start: int, end: int) -> Iterator[Edge]:
        """The name of a figure in a table of long form: the value on the rows of that name."""
        if not self.vocabulary.figures or span[0].lower in lexicon.fillers():
            return
        stems = tuple(t.stem for t in span if t.lower not in lexicon.fillers())
        for named, held in self.vocabulary.figures:
            for value, words in self.figure_words[named]:
                score = 0.97 if stems == words else 0.8 if len(stems) > 1 and words[: len(stems)] == stems else 0.0
                if not score and len(stems) > 1 and all(any(_are_alike(s, w) for w in words) for s in stems):
                    # The claimant rate is the claimants as a proportion of all residents.
                    score = 0.84 - 0.01 * len(words)
                if not score and len(stems) == 1 and words == (stem("population"),) and stems[0] in _PEOPLE_COUNTED:
                    # Per thousand people is of the population.
                    score = 0.86
                if not score and len(stems) == 1 and stems[0] in words and not is_common(stems[0]):
                    score = 0.7
                elif not score and len(stems) == 1 and words[0] == stems[0]:
                    score = 0.72
                if score:
                    figure = m.Given(m.Col(held), m.Is(named, (value,)))
                    yield Edge("E", start, end, Measured(figure), score + 0.02)

    def _generic_money(self, word: str, start: int, end: int) -> Iterator[Edge]:
        """Sales, spend, the bill: what a table's total is called when nothing is called so."""
        if word in SPENDING_WORDS and not self.costed:
            # Where nothing says what was spent, a thing cost what it was given.
            for key, words in self.vocabulary.columns.items():
                given = stem("budget") in words.parts and self.vocabulary.column(key).is_measure
                if given and key not in self.estimates:
                    yield Edge("M", start, end, Noun(key=key), 0.66)
                    yield Edge("MV", start, end, Noun(key=key), 0.62)
        for key, words in self.vocabulary.columns.items():
            column = self.vocabulary.column(key)
            if word in INCOME_WORDS and COST_PARTS & set(words.parts) and not self._is_what_people_pay(key):
                continue
            if word in SPENDING_WORDS and (INCOME_PARTS | _STANDING) & set(words.parts):
                # What a thing is still worth is not what was spent on it.
                continue
            main = words.head in GENERIC_MONEY or {"total", "amount"} & set(words.parts)
            if words.head == stem("price") and OFFERED & {*words.parts}:
                # What was asked for it is not what it brought in.
                continue
            if main and EXTRAS & {*words.parts} and word not in words.parts:
                # The VAT on a bill is no amount that was spent.
                continue
            theirs = bool(_CALLED_SPEND & {*words.parts}) and self._is_what_people_pay(key)
            charged = column.role is Role.MONEY and (words.head in _CHARGED or theirs)
            bought = word in SPENDING_WORDS and words.head in _HANDED_OVER and column.role is Role.MONEY
            if column.is_measure and column.role.is_summed and (main or charged or bought):
                plain = 0.06 if {"total", "amount"} & set(words.parts) else -0.02 if words.head == "net" else 0.0
                if word in INCOME_WORDS and self.vocabulary.is_outgoing(key.table):
                    plain -= 0.14
                yield Edge("M", start, end, Noun(key=key), 0.68 + plain if main or bought else 0.64)
            elif words.head == "pay" and column.is_measure and column.role.is_summed:
                if self._only_money(key) or words.parts == ("pay",):
                    yield Edge("M", start, end, Noun(key=key), 0.6)

    def column_edges(self, key: ColumnKey, score: float) -> Iterator[Edge]:
        """All that a column can be, over one word."""
        for category, factor in categories_of(self.vocabulary.column(key)):
            yield Edge(category, 0, 1, Noun(key=key), score * factor)

    def _column(self, key: ColumnKey, score: float, start: int, end: int, *, verb: bool = False) -> Iterator[Edge]:
        column = self.vocabulary.column(key)
        noun = Noun(key=key)
        for category, factor in categories_of(column):
            # A yes/no column needs its own word: one of like meaning would leave rows out unasked.
            weak = 0.75 if category == "F" and score < 0.85 else 1.0
            if category == "M" and is_yearly(column) and score < 0.9:
                # A year is a number by its own name only.
                continue
            if category == "F" and score < (0.72 if not verb else 0.95):
                continue
            if category == "M" and self._numbers_its_rows(key, column):
                continue
            yield Edge(category, start, end, noun, score * factor * weak)
        if score >= 0.72 and (yes := said_yes(column)) is not None:
            yield Edge("STATE", start, end, Part(m.Is(key, (yes,)), "state"), score)
        if column.type is Type.TEXT and column.distinct == len(column.values) == 1 and column.missing and score >= 0.9:
            # A mark beside blanks is a yes: those are protected that have an order for it.
            yield Edge("V", start, end, Values(key, column.values), score)

    def _written_as(self, word: str) -> list[ColumnKey]:
        """The columns that are called by a word with digits in it."""
        return self.written.get(plain(word), [])

    def _numbers_its_rows(self, key: ColumnKey, column: Column) -> bool:
        """True for a code called as the rows are: the lots of an auction go by their numbers, which nobody adds up."""
        return (
            column.role is Role.CODE and self.vocabulary.columns[key].parts == self.vocabulary.tables[key.table].parts
        )

    def _are_rows(self, word: str, key: ColumnKey) -> bool:
        """True for a word that stands for the rows that a column tells of, and is no part of its name."""
        return word not in self.vocabulary.columns[key].parts and any(
            table == key.table for score, table in self.vocabulary.tables_for((word,)) if score >= 0.7
        )

    def _how_much_so(self, adjective: str, start: int, end: int) -> Iterator[Edge]:
        """How heavy a thing is: its weight."""
        told = lexicon.adjectives()[0].get(adjective)
        if (
            told is None
            or not told.up
            or told.dated
            or told.counts
            or told.ideas[:1] in ((stem("price"),), (stem("duration"),))
        ):
            return
        for score, expr in self._of_ideas(told) if told.ideas else ():
            if isinstance(expr, m.Col):
                yield Edge("M", start, end, Noun(key=expr.key), score + 0.05)

    def _what_is_sold(self, end: int) -> Iterator[Edge]:
        """What sells best is a product, by whatever name these go."""
        for word in ("product", "item", "article"):
            for score, key in self.vocabulary.columns_for((stem(word),))[:2]:
                if score >= 0.7 and self.vocabulary.column(key).type is Type.TEXT:
                    yield Edge("C", 0, end, Noun(key=key), score - 0.1)

    def _who_did(self, start: int, end: int) -> Iterator[Edge]:
        """By person: by whom it was done, where a column says so."""
        for key in self.vocabulary.columns:
            column = self.vocabulary.column(key)
            parts = name_parts(key.column)
            done = parts[-1:] in (["by"], ["to"]) and parts[0] in _HANDLED and column.type is Type.TEXT
            if column.role is Role.PERSON or (done and column.distinct <= _MOST_MADE_OF):
                yield Edge("C", start, end, Noun(key=key), 0.8)

    def _named_with_years(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Paid for 2026, where a column is called Paid 2026: its year is a part of what it is called."""
        for edge in found:
            key = edge.value.key if isinstance(edge.value, Noun) and edge.category in ("F", "M", "C", "D") else None
            years = (
                re.findall(r"(?<!\d)(?:19|20)\d\d(?!\d)", key.column) if key is not None and edge.score > 0.5 else []
            )
            place = edge.end
            while years and place < len(tokens) and tokens[place].lower in ("for", "in", "the", "of"):
                place += 1
            if years and place < len(tokens) and tokens[place].text in years:
                yield dataclasses.replace(edge, end=place + 1, score=edge.score + 0.2)

    def _grew_on(self, key: ColumnKey) -> bool:
        """True for the ground of what happened on a day, of which the rows tell how much came of it."""
        columns = self.vocabulary.table(key.table).columns
        ground = bool(GROUND & set(name_parts(key.column))) and any(c.type.is_time for c in columns)
        others = (c for c in columns if c.name != key.column and c.role is Role.QUANTITY)
        return ground and next(others, None) is not None

    def _kind_of_what(self, first: str, last: str, start: int, end: int) -> Iterator[Edge]:
        """The class type is the type, where a column is called so, and no class."""
        for key in self.spelled.get((last,), ()):
            named = any(s >= 0.85 for s, k in self.vocabulary.columns_for((stem(first),))[:1] if k.table == key.table)
            if named or any(s >= 0.85 for s, t in self.vocabulary.tables_for((stem(first),))[:1] if t == key.table):
                yield from self._column(key, 1.06, start, end)

    def _had_on_them(self, start: int, end: int) -> Iterator[Edge]:
        """People at what people came to: as many as there were, and not those who ran it."""
        for table in self.vocabulary.tables:
            for column in self.vocabulary.table(table).columns:
                key = ColumnKey(table, column.name)
                came = column.role is Role.QUANTITY and _CAME_THERE & {*self.vocabulary.columns[key].parts}
                if came and column.type is Type.INTEGER:
                    yield Edge("M", start, end, Noun(key=key), 0.8)
                    return

    def _heads_counted(self, start: int, end: int) -> Iterator[Edge]:
        """The headcount is how many people work there."""
        named = [pair for w in ("employee", "staff", "people") for pair in self.vocabulary.tables_for((stem(w),))]
        score, table = max(named, default=(0.0, ""))
        if score >= 0.8:
            yield Edge("CNT", start, end, Counted(Noun(table=table)), 1.05)
            return
        for word in ("employee", "staff"):
            for score, key in self.vocabulary.columns_for((stem(word),))[:2]:
                if score >= 0.7 and self.vocabulary.column(key).type is Type.TEXT:
                    yield Edge("CNT", start, end, Counted(Noun(key=key), distinct=True), score + 0.15)

    def _doers(self, token: Token, start: int, end: int) -> Iterator[Edge]:
        """A verb for the column that says who does it: owns for owner, directed for Director, assigned for Assigned To."""
        if not token.lower.endswith(("s", "ed", "es", "t", "d", "n")) or len(token.stem) < 3:
            return
        if token.lower.endswith(_DOINGS):
            # Bookings are what was done, and not who booked.
            return
        for key, called in self._texts_called:
            if any(p.startswith(token.stem) and len(p) - len(token.stem) <= 3 for p in called):
                yield Edge("DOER", start, end, Noun(key=key), 0.8)

    @functools.cached_property
    def _texts_called(self) -> list[tuple[ColumnKey, tuple[str, ...]]]:
        """The columns of text that may say who did something, with what each is called; the type of work is nobody who worked."""
        texts = [(k, w) for k, w in self.vocabulary.columns.items() if self.vocabulary.column(k).type is Type.TEXT]
        return [
            (key, tuple(p for p in (*words.parts, *(s[0] for s in words.synonyms if len(s) == 1)) if len(p) > 3))
            for key, words in texts
            if words.head not in KIND_WORDS and words.head not in _STATED
        ]

    def _serving(self, start: int, end: int, *, at_work: bool = False) -> Iterator[Edge]:
        """Who has been there longest began first; those who serve are the staff, where there are such."""
        for score, key in self.vocabulary.columns_of_ideas(_JOINING, numeric=False, dated=True)[:3]:
            staff = at_work and bool(EMPLOYED & {*self.vocabulary.tables[key.table].parts})
            yield Edge("SUP", start, end, Top(False, by=m.Col(key)), score + 0.15 + 0.2 * staff)
        # A job that has been here longest came in first.
        yield Edge("SUP", start, end, Top(False, by=m.EventTime()), 0.8)

    def _adjective(self, lowers: tuple[str, ...], start: int, end: int) -> Iterator[Edge]:
        plain, more, most = lexicon.adjectives()
        word = lowers[-1]
        if lowers in _LONGEST_THERE:
            yield from self._serving(start, end, at_work="serving" in lowers[-1])
        if len(lowers) == 2 and word == "longest":
            for key, named in self.vocabulary.columns.items():
                if self.vocabulary.column(key).type.is_time and stem(lowers[0]) in named.parts:
                    # Licensed longest: since the earliest day.
                    yield Edge("SUP", start, end, Top(False, by=m.Col(key)), 0.85)
        adjective, reverse = most.get(word) if len(lowers) == 1 else None, False
        if adjective is None and len(lowers) == 2 and lowers[0] in ("most", "least"):
            adjective, reverse = plain.get(word), lowers[0] == "least"
            if adjective is None:
                adjective = MOST.get(word)
        words = lowers if len(lowers) == 2 else tuple(lowers[0].split("-")) if len(lowers) == 1 else ()
        if len(words) == 2 and words[0] in _COMPOUNDED and _is_participle_like(words[1]):
            yield from self._compound(_COMPOUNDED[words[0]], words[1], start, end)
        if adjective is not None:
            up = adjective.up != reverse
            if adjective.counts:
                yield Edge("SUP", start, end, Top(up, counts=True), 0.9)
            aged = {e for _, e in self._ages()} if adjective.dated else set()
            told_by = list(self._of_ideas(adjective))
            if adjective.dated:
                # Whose age stands on them are told by that, whenever they joined.
                old = {k.table for e in aged if isinstance(e, m.Col) for k in m.columns_in(e)}
                told_by = [
                    (s - 0.2 if expr not in aged and old & {k.table for k in m.columns_in(expr)} else s, expr)
                    for s, expr in told_by
                    if word not in ("oldest", "youngest")
                    or not any(self.vocabulary.is_told_again(k.table) for k in m.columns_in(expr))
                ]
            for score, expr in told_by:
                # The oldest was born first, but has the most years.
                # What has a size each is told by what one of them has, and is not added up.
                if adjective.plain and isinstance(expr, m.Col) and self._grew_on(expr.key):
                    score -= 0.3
                typical = adjective.ideas[:1] in (*_EACH, (stem("size"),))
                yield Edge(
                    "SUP",
                    start,
                    end,
                    Top(up != (expr in aged), by=expr, typical=typical),
                    score + self._end_of(up, expr),
                )
            if not adjective.ideas and not adjective.counts and word in ("best", "worst"):
                # The best time of a race is the shortest.
                for key in self.vocabulary.least_is_best:
                    yield Edge("SUP", start, end, Top(not up, by=m.Col(key)), 0.93)
            if stem("duration") in adjective.ideas:
                # The longest stay is the one with most days from its arrival to its departure.
                for _, (first, last) in self.pairs[:4]:
                    if first.table == last.table:
                        lasting = m.Length(self.vocabulary.natural_unit(first, last), m.Col(first), m.Col(last))
                        there = self._is_told(first, _ARRIVING) and self._is_told(last, _LEAVING)
                        score = 0.68 + 0.06 * (self._are_ends(first, last) or there)
                        score += 0.04 * (word in ("longest", "shortest") and self._is_told(last, _OVER))
                        # What took so many minutes is no longer for the days until something else.
                        score -= 0.1 * (lasting.unit == "days" and self._takes_minutes(first.table))
                        yield Edge("SUP", start, end, Top(up, by=lasting), score)
            if stem("occupancy") in adjective.ideas:
                # The fullest has the most of those who are in it.
                yield Edge("SUP", start, end, Top(up, counts=True), 0.72)
                for taken, places in self.filled:
                    yield Edge("SUP", start, end, Top(up, by=m.Arithmetic("/", taken, places), typical=True), 0.9)
            if not adjective.counts and not adjective.dated and not (adjective.ideas[:1] == ("price",) and told_by):
                # The most expensive repair is told by what it cost, and never by how long a repair takes.
                plainly = 0.8 if not adjective.ideas else 0.76 if adjective.plain else 0.55
                each = adjective.ideas[:1] in _EACH and adjective.ideas[0] != stem("height")
                yield Edge("SUP", start, end, Top(up, typical=each), plainly)
        if len(lowers) == 2 and lowers[0] in most and stem("size") in most[lowers[0]].ideas and word in GROUPS:
            # The biggest group is the one of most people.
            for table in self.vocabulary.tables:
                for key, said in together(self.vocabulary, table):
                    score = 0.95 if stem(word) in said else 0.86
                    yield Edge("SUP", start, end, Top(most[lowers[0]].up, by=m.Col(key)), score)
        if word in _SWIFT and len(lowers) == 1:
            # The fastest has the highest speed, where it has one.
            for score, key in self.vocabulary.columns_of_ideas((stem("speed"),), numeric=True)[:2]:
                yield Edge("SUP", start, end, Top(_SWIFT[word], by=m.Col(key)), score + 0.12)
        if lowers in _FIRST:
            for score, expr in self._of_ideas(_DATED):
                yield Edge("SUP", start, end, Top(not _FIRST[lowers], by=expr), score - 0.05)
        related = more.get(word) if len(lowers) == 1 else None
        if len(lowers) == 2 and lowers[0] in ("more", "less"):
            related = plain.get(word) or MOST.get(word)
        if related is not None:
            for score, expr in list(self._ages()) if related.dated else self._of_ideas(related):
                # Larger is told of all there is, and dearer of what each costs.
                compared_by = Measured(expr) if related.plain else Worked(m.Aggregated("mean", expr))
                yield Edge("RELADJ", start, end, compared_by, score)
        if len(lowers) == 2 and lowers[1] in ("than", "then") and (lowers[0] in more or lowers[0] in ("more", "less")):
            compared = more.get(lowers[0])
            if compared is not None:
                ages = list(self._ages()) if compared.dated else []
                for score, expr in ages or self._of_ideas(compared):
                    # The older was born earlier, but has more years.
                    yield Edge("COMP", start, end, (">" if compared.up != bool(ages) else "<", expr), score)

    def _end_of(self, up: bool, expr: m.Expr) -> float:
        """The coldest is told by the lowest temperature of the day, where there are two."""
        words = {*self.vocabulary.columns[expr.key].full} if isinstance(expr, m.Col) else set()
        low, high = bool(words & _LOWEST), bool(words & _HIGHEST)
        return 0.0 if low == high else 0.1 if high == up else -0.1

    def _compound(self, up: bool, word: str, start: int, end: int) -> Iterator[Edge]:
        """Best-paid, top rated, most visited: by a column the participle points at, or by how often."""
        for phrase, meanings in self.derived.items() if word.endswith("ing") else ():
            # The highest scoring match is that of most goals of both sides.
            if len(phrase) == 1 and lexicon.related(stem(word), stem(phrase[0])):
                for meaning, score in meanings:
                    if isinstance(meaning, m.Arithmetic) and meaning.op == "+":
                        yield Edge("SUP", start, end, Top(up, by=meaning), score)
        for key, words in self.vocabulary.columns.items():
            column = self.vocabulary.column(key)
            priced = word in ("selling", "sold") and stem("price") in words.parts
            if column.is_measure and not priced and any(lexicon.related(stem(word), p) for p in words.parts):
                # What is hired most is so by how often, and not by what its hire cost.
                often = word in _OFTEN and column.role is Role.MONEY
                yield Edge("SUP", start, end, Top(up, by=m.Col(key)), 0.7 if often else 0.86)
        for verb in lexicon.verbs().get(word, ()):
            if verb.kind != "time":
                for score, key in self.vocabulary.columns_of_ideas(verb.ideas, numeric=True)[:3]:
                    if word in ("selling", "sold") and stem("price") in self.vocabulary.columns[key].parts:
                        # What sells best has no price to tell by.
                        continue
                    often = word in _OFTEN and self.vocabulary.column(key).role is Role.MONEY
                    yield Edge("SUP", start, end, Top(up, by=m.Col(key)), score + 0.02 - 0.16 * often)
        if word in ("selling", "sold") and len(self.units_sold) == 1 and self.worked_revenue:
            # What sells best is what most is sold of, whatever its price is, where no column has what it brought in.
            yield Edge("SUP", start, end, Top(up, by=self.units_sold[0]), 1.1)
        elif word in ("selling", "sold", "earning", "grossing"):
            yield Edge("SUP", start, end, Top(up), 0.84)
        for name, words in self.vocabulary.tables.items():
            if stem(word) in words.parts:
                # Most hired: of the hires there are most.
                yield Edge("TOPX", start, end, (Top(up, counts=True), Counted(Noun(table=name))), 0.86)
        # The most polluted has most of what pollutes, and says nothing of how many rows there are.
        doing = word.endswith("ed") and word not in lexicon.verbs() and stem(word) not in lexicon.troubles()
        # The highest rated are so by their ratings alone.
        doing = doing and word not in _JUDGED
        if word in _OFTEN or doing:
            yield Edge("SUP", start, end, Top(up, counts=True), 0.8 if word in _OFTEN else 0.7)

    def _ages(self) -> Iterator[tuple[float, m.Expr]]:
        """How old in years: of a number that says so, or from a birthday."""
        in_bands = {key for columns in self.told_bands.values() for key, _ in columns}
        for score, key in self.vocabulary.columns_of_ideas((stem("age"),), numeric=True)[:2]:
            if key not in in_bands:
                yield score, m.Col(key)
        for meaning, score in self.derived.get(("age",), ()):
            if isinstance(meaning, m.Length):
                yield score, meaning

    def _of_ideas(self, adjective: lexicon.Adjective) -> Iterator[tuple[float, m.Expr]]:
        """Expressions that an adjective measures."""
        priced = adjective.ideas[:1] == ("price",)
        seen: set[str] = set()
        for place, (score, key) in enumerate(self.vocabulary.columns_of_ideas(adjective.ideas, numeric=True)):
            if place >= 3 and key.table in seen:
                continue
            seen.add(key.table)
            if stem("duration") in adjective.ideas and "per" in name_parts(key.column):
                # A price per day is no number of days.
                continue
            bought = priced and bool(COST_PARTS & set(self.vocabulary.columns[key].parts))
            rate = priced and self.vocabulary.column(key).role is Role.PERCENTAGE
            yield 0.94 * score + 0.1 - 0.15 * bought - 0.3 * rate, m.Col(key)
        if adjective.dated:
            for key, words in self.vocabulary.columns.items():
                column = self.vocabulary.column(key)
                if (column.type.is_time or is_yearly(column)) and BIRTH & {*words.full, *words.described}:
                    yield 0.92, m.Col(key)
                elif is_yearly(column) and BEGUN & {*words.full, *words.described}:
                    yield 0.9, m.Col(key)
        if "date" in adjective.ideas:
            for name in self.vocabulary.tables:
                table = self.vocabulary.table(name)
                if table.time_column is not None:
                    yield 0.75, m.Col(ColumnKey(name, table.time_column.name))
            for key, words in self.vocabulary.columns.items():
                column = self.vocabulary.column(key)
                if column.type.is_number and {"year", "born"} & set(words.parts) and column.role is not Role.LINK:
                    # A car is as old as its year, whenever it was bought.
                    dated = any(c.type.is_time for c in self.vocabulary.table(key.table).columns)
                    made = words.parts == ("year",) and dated
                    yield 0.9 if made else 0.7, m.Col(key)
        if {"durat", "hour", "day"} & set(adjective.ideas):
            for _, (start, end) in self.pairs:
                if start.table != end.table:
                    continue
                lasting = m.Length(self.vocabulary.natural_unit(start, end), m.Col(start), m.Col(end))
                yield 0.5 + 0.06 * self._is_handled(start, end) + 0.08 * self._are_ends(start, end), lasting

    def _values(
        self, span: list[Token], start: int, end: int, before: str, *, sign: str, alone: bool
    ) -> Iterator[Edge]:
        vocabulary = self.vocabulary
        if len(span) == 1 and span[0].text in ("US", "UK") and not vocabulary.values.get((span[0].stem,)):
            yield from self._places(span[0], start, end)
            return
        # A word that was put right is what it was put right to.
        stems = tuple(p for t in span for p in word_stems(t.text if t.text.lower() == t.lower else t.lower))
        small = len(span) == 1 and (
            (span[0].lower in lexicon.fillers() and not (span[0].meant and span[0].text[:1].isupper()))
            or (span[0].kind != "word" and len(span[0].text) < 3)
        )
        if len(stems) > LONGEST_VALUE + 2 or span[0].kind == "symbol" or span[-1].kind == "symbol":
            return
        hits = vocabulary.values.get(stems)
        if sign:
            for key, values in hits.items():
                if marked := tuple(v for v in values if v.strip().endswith(sign)):
                    yield Edge("V", start, end + 1, Values(key, marked), 0.97)
        # Customers are people before they are what a code stands for, as of who made a reading.
        people = len(span) == 1 and span[0].stem in PERSON_WORDS and span[0].lower.endswith("s")
        for key, code in vocabulary.codes.get(stems, ()):
            yield Edge("V", start, end, Values(key, (code,)), 0.6 if people else 0.9)
        found = False
        capital = span[0].text[:1].isupper() and start > 0
        named = {t for s, t in vocabulary.tables_for(tuple(t.stem for t in span)) if s >= 0.97} if hits else set()
        column_called = bool(hits) and any(
            s >= 0.97 and vocabulary.column(k).is_measure and span[0].lower in name_parts(k.column)
            for s, k in vocabulary.columns_for(tuple(t.stem for t in span))[:2]
        )
        for key, values in hits.items():
            column = vocabulary.column(key)
            if small:
                # A small word is a value only where it is written as the value is, such as the state code IN.
                # Rated A is no article where no word follows that it could belong to.
                letter = alone and start > 0 and span[0].text in ("A", "I")
                written = letter or (len(span[0].text) > 1 and (span[0].text.isupper() or capital))
                if span[0].text in values and written:
                    yield Edge("V", start, end, Values(key, (span[0].text,)), 0.85)
                continue
            exact = any(v.lower() == " ".join(t.lower for t in span) for v in values)
            score = 0.96 if exact else 0.9
            if len(span) == 1 and span[0].stem in SOME_PEOPLE and not capital:
                # Whoever says people means people, though a department may be called so.
                score -= 0.5
            elsewhere = any(s >= 0.97 for s, _ in vocabulary.columns_for(stems)[:1])
            if not exact and (stems == self.vocabulary.columns[key].parts or column_called or elsewhere):
                # Offers are those of the column before they are what was offered.
                score -= 0.3
            if column.role is Role.LINK:
                score -= 0.08
            elif column.role is Role.TEXT:
                score -= 0.04
            if capital:
                score += 0.02
            elif named and key.table not in named:
                # The supplies are those of the table before they are a word in another.
                score -= 0.15
            if before in ("from", "to"):
                said = {*map(stem, name_parts(key.column)), *vocabulary.roles.get(key.table, ())}
                ends = said & (_LEFT | _REACHED)
                score += 0.0 if not ends else 0.1 if ends & _ENDS[before] else -0.25
            typed = tuple(typed_value(v, column) for v in values)
            yield Edge("V", start, end, Values(key, typed), score)
            found = True
        if len(stems) == 1 and not found and not small:
            called = any(s >= 0.7 for s, _ in (*vocabulary.columns_for(stems)[:1], *vocabulary.tables_for(stems)[:1]))
            called = called or any(lexicon.related(stems[0], n) for n in self.nouns)
            yield from self._alike(stems[0], start, end, called or span[0].lower.endswith(("ed", "ing")))
            if not called and len(span[0].text) > 4:
                # Rowers are those whose sport is rowing, and a sunny day one of sun.
                for made in self._made_of(span[0].lower):
                    yield Edge("V", start, end, made, 0.86)
                    found = True
        if len(span) == 1 and span[0].kind == "word" and not found and (not small or capital):
            places = list(self._places(span[0], start, end))
            yield from places or self._partly(span[0], start, end, before)
        if len(span) > 1 and not hits and all(t.kind != "symbol" for t in span):
            yield from self._within(span, start, end)

    def _within(self, span: list[Token], start: int, end: int) -> Iterator[Edge]:
        """Several words that longer values hold in a row: San Francisco of an airport, a frying pan of what it measures."""
        stems = tuple(t.stem for t in span)
        edges = (span[0], span[-1])
        written = all(t.text[:1].isupper() for t in edges)
        if any(t.lower in lexicon.fillers() or t.lower in _QUESTION_WORDS for t in edges):
            return
        if not written and any(t.lower in lexicon.phrase_words() for t in edges):
            return
        first = self.vocabulary.partial.get(max(stems, key=len))
        for key, values in first.items():
            held = tuple(v for v in values if _holds_in_row(word_stems(v), stems))
            column = self.vocabulary.column(key)
            if not held or len(held) > 0.5 * max(column.distinct, 1):
                continue
            named = any(
                s >= 0.9 for s, _ in (*self.vocabulary.columns_for(stems)[:1], *self.vocabulary.tables_for(stems)[:1])
            )
            yield Edge("V", start, end, Values(key, held, partly=True), 0.5 if named else 0.85 if written else 0.78)

    def _made_of(self, word: str) -> Iterator[Values]:
        """Values that a word is made of."""
        for base in bases(word):
            for key, values in self.vocabulary.values.get((base,)).items():
                column = self.vocabulary.column(key)
                if column.role in (Role.CATEGORY, Role.PLACE) and column.distinct <= _MOST_MADE_OF:
                    yield Values(key, tuple(typed_value(v, column) for v in values))

    def _in_words(self, edge: Edge, tokens: list[Token]) -> Edge:
        """What is told by a number and by a name is meant by its name, unless its number is asked for."""
        value = edge.value
        if edge.category != "C" or not isinstance(value, Noun) or value.key is None:
            return edge
        said = {t.lower for t in tokens[edge.start : edge.end + 1]}
        if said & _NUMBER_WORDS:
            return edge
        told = self.vocabulary.telling(value.key)
        return edge if told == value.key else dataclasses.replace(edge, value=dataclasses.replace(value, key=told))

    def _by_the_clock(self, edge: Edge) -> Edge:
        """The earliest, where a time of day is asked for, is the earliest in the day."""
        if not isinstance(edge.value, Top) or not isinstance(edge.value.by, m.Col):
            return edge
        by = edge.value.by.key
        clock = next((key for key in self.clocks if key.table == by.table), None)
        if clock is None or not self.vocabulary.column(by).type.is_time:
            return edge
        return dataclasses.replace(edge, value=dataclasses.replace(edge.value, by=m.Col(clock)), score=edge.score + 0.1)

    def _as_said(self, edge: Edge, tokens: list[Token]) -> Edge:
        """Rows called by a doing, such as milkings, are less surely meant by the bare word: milk is what comes of them.

        And how many is asked of what is counted, never of money.
        """
        many = [t.lower for t in tokens[max(edge.start - 2, 0) : edge.start]] == ["how", "many"]
        if edge.category == "M" and many and isinstance(edge.value, Noun) and edge.value.key is not None:
            column = self.vocabulary.column(edge.value.key)
            if column.role is Role.MONEY or is_currency((column.unit or "").partition(" ")[0]):
                return dataclasses.replace(edge, score=edge.score - _BARE_DOING)
        if edge.category not in ("T", "C", "DT") or edge.end != edge.start + 1 or not isinstance(edge.value, Noun):
            return edge
        key, said = edge.value.key, tokens[edge.start].lower
        names = (edge.value.table or "", key.table if key is not None else "", key.column if key is not None else "")
        doing = any(
            p.endswith(("ing", "ings")) and stem(p) == tokens[edge.start].stem for n in names for p in name_parts(n)
        )
        if not doing or said.endswith(("ing", "ings")):
            return edge
        return dataclasses.replace(edge, score=edge.score - _BARE_DOING)

    def _rows_by_their_number(self, found: list[Edge], tokens: list[Token]) -> Iterator[Edge]:
        """Orders are the rows that have an order no, whatever kind of orders their table is called after, and no values."""
        tables = {(e.start, e.end, e.value.table) for e in found if e.category == "T" and e.score >= 0.7}
        # Owners are the rows of the table that is called so, and not those of all that have an owner's number.
        called = {(e.start, e.end) for e in found if e.category == "T" and e.score >= WHOLE_NAME}
        for edge in found:
            key = edge.value.key if edge.category in ("M", "C") and isinstance(edge.value, Noun) else None
            one = key is not None and edge.end == edge.start + 1 and tokens[edge.start].lower.endswith("s")
            rows = key is not None and (edge.start, edge.end, key.table) in tables
            if key is not None and edge.category == "C" and self._is_doer_of(key, tokens[edge.start].lower):
                # Requests are no requesters.
                yield dataclasses.replace(edge, score=edge.score - 0.6)
            elif not one or not rows or key is None:
                yield edge
            elif edge.category == "M":
                partial = edge.score < 0.85 and tokens[edge.start].stem in self.vocabulary.columns[key].parts[:-1]
                yield dataclasses.replace(edge, score=edge.score - 0.25) if partial else edge
            else:
                number = self.vocabulary.table(key.table).key
                own = number is not None and number.name == key.column and edge.score >= 0.9
                if own and (edge.start, edge.end) not in called:
                    yield Edge("T", edge.start, edge.end, Noun(table=key.table), edge.score)
                yield dataclasses.replace(edge, score=edge.score - 0.06) if own else edge

    @staticmethod
    def _is_doer_of(key: ColumnKey, word: str) -> bool:
        """True for a column of who does what a word says is done many times."""
        said = word.removesuffix("s")
        if word == said:
            return False
        return name_parts(key.column)[-1:] in ([f"{said}er"], [f"{said}r"], [f"{said}or"], [f"{said}ee"])

    def _kind_or_number(self, edge: Edge, tokens: list[Token]) -> Edge:
        """Which level or all levels asks for kinds, where the highest vintage is a number.

        And a list of pitches that tells bookings has many rows for each of them.
        """
        if edge.category == "T" and isinstance(edge.value, Noun) and edge.value.table in self.listed:
            said = tuple(t.stem for t in tokens[edge.start : edge.end])
            listed = said == self.vocabulary.columns[self.listed[edge.value.table]].parts
            return dataclasses.replace(edge, score=edge.score - 0.35) if listed else edge
        if edge.category not in ("M", "C") or not isinstance(edge.value, Noun) or edge.value.key is None:
            return edge
        column = self.vocabulary.column(edge.value.key)
        first = tokens[edge.start].lower
        if edge.category == "M" and first == "total" and edge.end - edge.start > 1 and edge.start:
            if (
                tokens[edge.start - 1].lower in _UTMOST
                and stem("total") not in self.vocabulary.columns[edge.value.key].full
            ):
                # The highest total units are those of something, added up.
                return dataclasses.replace(edge, score=edge.score - 0.25)
        before = tokens[edge.start - 1].lower if edge.start else ""
        if edge.end == edge.start + 1 and tokens[edge.start].lower in UNITS:
            dated = self.vocabulary.table(edge.value.key.table).time_column is not None
            if dated and len(self.vocabulary.columns[edge.value.key].parts) > 1 and not column.type.is_time:
                # Each year is a time before it is a year group.
                return dataclasses.replace(edge, score=edge.score - 0.1)
        if not column.type.is_number or column.role in (Role.IDENTIFIER, Role.LINK):
            return edge
        if column.role is Role.CODE:
            number = edge.category == "M" and before in _UTMOST
            return dataclasses.replace(edge, score=1.0) if number and edge.score < 1.0 else edge
        called = tokens[edge.end - 1].lower
        several = called.endswith("s") and not column.name.lower().endswith("s") and before in ("what", "all", "the")
        if before == "which" or several:
            return dataclasses.replace(edge, score=edge.score + (0.25 if edge.category == "C" else -0.1))
        return edge

    def _alike(self, word: str, start: int, end: int, called: bool) -> Iterator[Edge]:
        """Another word for a value of a short list: companies for the kind Firm."""
        for names in _PERIODICALLY:
            for key, value, known in self.short if word in names else ():
                if known in names and known != word:
                    yield Edge("V", start, end, Values(key, (value,)), 0.9)
        if (
            (word,) in lexicon.phrases()
            or word in PERSON_WORDS
            or word in SOME_PEOPLE
            or word in self.acts
            or word in INCOME_WORDS | SPENDING_WORDS | _PARTS_OF
            or called
            or (is_common(word) and word not in lexicon.concepts())
        ):
            return
        ideas = lexicon.concepts().get(word, frozenset())
        like: dict[ColumnKey, set[str | int | bool]] = {}
        for key, value, known in self.short:
            doing = str(value).lower() == f"{known}ion"
            # Production makes products, and is none.
            if word != known and not doing and ideas & lexicon.concepts().get(known, frozenset()):
                like.setdefault(key, set()).add(value)
        whole = {key for key, values in like.items() if len(values) > 1}
        # Cars in a stock list are its rows, where nothing else there says what these are.
        whole |= {key for key in like if {*self.vocabulary.tables[key.table].parts} <= _KEEPING}
        for table in sorted({key.table for key in whole}):
            # Properties are houses and flats alike: all that the rows are of.
            yield Edge("T", start, end, Noun(table=table), 0.74)
        for key, value, known in self.short:
            if key in whole:
                continue
            alike = word[:5] == known[:5] and len(word) >= 5 and abs(len(word) - len(known)) <= 4
            if word != known and alike:
                yield Edge("V", start, end, Values(key, (value,)), 0.64)
            elif value in like.get(key, ()):
                yield Edge("V", start, end, Values(key, (value,)), 0.58)

    def _places(self, token: Token, start: int, end: int) -> Iterator[Edge]:
        """French for the value France, US for the value United States, where the data has them."""
        for name in lexicon.demonyms().get(token.lower, ()):
            for key, values in self.vocabulary.values.get(word_stems(name)).items():
                yield Edge("V", start, end, Values(key, tuple(values)), 0.9)

    def _partly(self, token: Token, start: int, end: int, tokens_before: str) -> Iterator[Edge]:
        """A part of longer values, such as a surname. An everyday word is one only where it has a capital inside the question."""
        capital = token.text[:1].isupper() and start > 0
        if token.lower not in lexicon.phrase_words() and token.lower not in lexicon.fillers():
            coded = self.vocabulary.in_codes.get(token.stem, ())
            called = any(s >= 0.7 for s, _ in self.vocabulary.columns_for((token.stem,))[:1]) or any(
                lexicon.related(token.stem, n) for n in self.nouns
            )
            for key, code in coded if len(coded) == 1 and not called else ():
                yield Edge("V", start, end, Values(key, (code,), partly=True), 0.7)
        for key, values in self.vocabulary.partial.get(token.stem).items():
            column = self.vocabulary.column(key)
            few = column.distinct <= 60
            if (is_common(token.stem) or token.stem in lexicon.fillers()) and not capital and not few:
                continue
            if not capital and (token.stem in lexicon.fillers() or token.lower in _QUESTION_WORDS):
                continue
            if not capital and (
                token.lower in lexicon.phrase_words() or any(lexicon.related(token.stem, n) for n in self.nouns)
            ):
                continue
            if not capital and is_common(token.stem) and not few and column.role not in (Role.CATEGORY, Role.PLACE):
                continue
            # Darkness is that of every kind, where the values begin with it and others do not.
            begun = few and len(values) < column.distinct and all(word_stems(v)[:1] == (token.stem,) for v in values)
            if len(values) > 0.5 * max(column.distinct, 1) and not capital and not begun:
                continue
            if not capital and any(s >= 0.95 for s, _ in self.vocabulary.columns_for((token.stem,))[:1]):
                # The plants are those of the column called so, and no part of a grower's name.
                continue
            score = 0.74 if capital or (few and len(values) <= 3) else 0.6
            if token.lower in lexicon.verbs() and all(_PARTICLES & {*v.lower().split()[1:]} for v in values):
                # Whatever is sold is not sold out.
                score = 0.4
            written = any(token.lower in re.findall(r"[^\W_]+", v.lower()) for v in values)
            if not capital and not written:
                # Hospitals are more than the one that is called a hospital.
                score -= 0.15
            led = not capital and is_common(token.stem) and tokens_before in ("to", "at", "from")
            if led and all(len(v.split()) > 1 and stem(v.split()[-1]) != token.stem for v in values):
                # Who walks to school is not told by school dinners.
                yield Edge("IDLE", start - 1, end, "", 0.6)
                continue
            yield Edge("V", start, end, Values(key, tuple(values), partly=True), score)

    def _so_many_kinds(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """More than two vans, two or more different vans: so many different ones, and no amount."""
        numbers = [e for e in found if e.category == "N" and isinstance(e.value, float) and e.value.is_integer()]
        kinds: list[Edge] = []
        for number in numbers:
            if number.end - number.start > 1 or tokens[number.start].money:
                continue
            end = number.end
            more = [t.lower for t in tokens[end : end + 2]] == ["or", "more"]
            end += 2 if more else 0
            told = end < len(tokens) and tokens[end].lower in ("different", "distinct", "unique", "separate")
            named = [
                e
                for e in found
                if e.start == end + told and e.category in ("C", "T") and e.score >= 0.8 and isinstance(e.value, Noun)
            ]
            columns = {e.end for e in named if e.category == "C"}
            for edge in named:
                if edge.category == "T" and edge.end in columns:
                    continue
                if edge.value.key is not None and self.vocabulary.column(edge.value.key).is_measure:
                    continue
                # Rows of a table are more likely counted as they are, unless different ones are asked for.
                score = edge.score + (0.1 if told else -0.1 if edge.category == "C" else -0.5)
                if more:
                    held = Held(Counted(edge.value, True), ">=", number.value)
                    kinds.append(Edge("H", number.start, edge.end, held, score))
                else:
                    kinds.append(Edge("KINDS", number.start, edge.end, (number.value, edge.value), score))
        return kinds

    def _never_at_all(self, tokens: list[Token]) -> Iterator[Edge]:
        """Who never claimed has none of the claims, whatever else is called after claiming."""
        for place, token in enumerate(tokens[:-1]):
            done = tokens[place + 1]
            if token.lower != "never" or done.lower == done.stem:
                continue
            for table, words in self.vocabulary.tables.items():
                if words.parts == (done.stem,):
                    yield Edge("K", place, place + 2, Part(m.Not(m.Has(m.Rows(table))), "related"), 1.15)

    def _paid_on(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """What was paid on claims, and claims paid as a share of something: the money, where the rows it stands on lead
        to these."""
        rows = {e.start: e for e in found if e.category == "T" and e.score >= 0.8 and isinstance(e.value, Noun)}
        ends = {e.end: e for e in rows.values()}
        paid: list[Edge] = []
        for edge in found:
            if edge.category != "MV" or not isinstance(edge.value, Noun) or edge.value.key is None:
                continue
            after = [t.lower for t in tokens[edge.end : edge.end + 3]]
            on = rows.get(edge.end + 1) if after[:1] and after[0] in ("on", "for", "against", "towards") else None
            begins = edge.start
            if (
                on is None
                and after[:1] == ["as"]
                and after[-1] in ("percentage", "percent", "%", "share", "proportion")
            ):
                on = ends.get(edge.start)
                begins = on.start if on is not None else begins
            if on is not None and self.vocabulary.catalogue.path(edge.value.key.table, on.value.table) is not None:
                paid.append(Edge("M", begins, max(on.end, edge.end), edge.value, edge.score + 0.35))
        return paid

    def _of_things(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """The first order of each customer, how many orders there are of each, and customers who are new."""
        yield from self._first_times(tokens, found)
        yield from between_rows(tokens, found, self.vocabulary)
        yield from self._so_many_each(tokens, found)
        yield from self._all_its_numbers(tokens, found)
        yield from self._first_done(tokens, found)
        for edge in [e for e in found if e.category in ("T", "C") and e.score >= 0.8]:
            before = tokens[edge.start - 1].lower if edge.start else ""
            noun = edge.value
            if before in ("new", "first-time") and isinstance(noun, Noun):
                for below in self._first_rows(noun):
                    yield Edge("NPX", edge.start - 1, edge.end, (noun, Axis(below)), edge.score)
            if edge.category != "T" or not isinstance(noun, Noun) or noun.table is None:
                continue
            unit = _LASTED.get(tokens[edge.end].lower) if edge.end < len(tokens) else None
            if unit is not None:
                # Downtime hours are how long the rows lasted, added up.
                for table, (first, last) in self.pairs:
                    if table == noun.table == first.table == last.table:
                        lasted = m.Aggregated("sum", m.Length(unit, m.Col(first), m.Col(last)))
                        yield Edge("Q", edge.start, edge.end + 1, Worked(lasted), edge.score - 0.12)
                        break
            start = edge.start - 1 - (edge.start > 1 and tokens[edge.start - 2].lower in ("very", "most"))
            end = edge.end + (edge.end < len(tokens) and tokens[edge.end].lower == "ever")
            ends = _ENDMOST.get(before)
            ahead = tuple(t.lower for t in tokens[max(edge.start - 2, 0) : edge.start])
            held = edge.end < len(tokens) and tokens[edge.end].lower in ("they", "it", "each")
            counted = ahead in (("number", "of"), ("count", "of")) or (ahead == ("how", "many") and held)
            if ends is None and not counted:
                continue
            for of in self._each_that_has(noun.table):
                time = self.vocabulary.table(noun.table).time_column
                if ends is not None and time is not None:
                    moment = m.Aggregated(ends, m.Col(ColumnKey(noun.table, time.name)))
                    yield Edge("BD", start, end, m.Below(moment, of), edge.score)
                if counted:
                    count = m.Aggregated("count", table=noun.table)
                    yield Edge("BC", edge.start - 2, edge.end, m.Below(count, of), edge.score)

    def _each_that_has(self, table: str) -> Iterator[ColumnKey]:
        """The keys of what the rows of a table belong to one of."""
        for other in self.vocabulary.catalogue.tables:
            if other.key is not None and self.vocabulary.catalogue.path(table, other.name):
                yield ColumnKey(other.name, other.key.name)

    def _ends_of_rows(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """The end of the contract, the start of their stay: a day that stands on the rows that are named."""
        rows = [e for e in found if e.category == "T" and e.score >= 0.8]
        for edge in rows:
            of = edge.start - 1 - (edge.start > 1 and tokens[edge.start - 1].lower in _ARTICLES_OF)
            if of < 1 or tokens[of].lower != "of":
                continue
            word = stem(tokens[of - 1].lower)
            meant = next((words for words in (_ENDED, _STARTED) if word in words), None)
            if meant is None:
                continue
            for key in self.vocabulary.columns:
                dated = key.table == edge.value.table and self.vocabulary.column(key).type.is_time
                if dated and meant & {*self.vocabulary.columns[key].parts}:
                    yield Edge("D", of - 1, edge.end, Noun(key=key), 0.95)

    def _first_done(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """When readers first borrow, said of each of them: the first of the days on which it was done."""
        doers = {e.end for e in found if e.category == "T" and e.score >= 0.8} | {
            n + 1 for n, t in enumerate(tokens) if t.lower in ("they", "people", "we", "it")
        }
        for edge in [e for e in found if e.category == "D" and e.end == e.start + 1 and e.score >= 0.5]:
            ends = _ENDMOST.get(tokens[edge.start - 1].lower) if edge.start else None
            if ends is not None and edge.start - 1 in doers and isinstance(edge.value, Noun) and edge.value.key:
                for of in self._each_that_has(edge.value.key.table):
                    moment = m.Aggregated(ends, m.Col(edge.value.key))
                    yield Edge("BD", edge.start - 1, edge.end, m.Below(moment, of), edge.score + 0.3)

    def _all_its_numbers(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """The correlation matrix of visits: how every two of their numbers go together."""
        lowers = [t.lower for t in tokens]
        for edge in found:
            rows = edge.value.table if edge.category == "T" and isinstance(edge.value, Noun) else None
            start = next((n for n in range(edge.start) if lowers[n] in _TYING), None)
            if rows is None or start is None or edge.score < 0.8:
                continue
            if not set(lowers[start + 1 : edge.start]) <= _OF_ITS_NUMBERS or edge.start - start < 2:
                continue
            numbers = [m.Col(ColumnKey(rows, c.name)) for c in self.vocabulary.table(rows).columns if c.is_measure]
            pairs = itertools.combinations(numbers[:_MOST_TIED], 2)
            tied = tuple(Worked(m.Aggregated("correlation", one, other=other)) for one, other in pairs)
            if tied:
                yield Edge("QX", start, edge.end, tied, edge.score + 0.3)

    def _so_many_each(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Payments per contract, over the contracts: how many there are of each."""
        lowers = [t.lower for t in tokens]
        tables = [
            e for e in found if e.category == "T" and e.score >= 0.8 and isinstance(e.value, Noun) and e.value.table
        ]
        for one, other in itertools.permutations(tables, 2):
            between = tuple(lowers[one.end : other.start])
            if between in _HAS_ONE:
                yield from self._how_many_have_how_many(lowers, one, other)
            key = self.vocabulary.table(other.value.table).key
            if between not in _OVER_EACH or key is None or one.value.table == other.value.table:
                continue
            if self.vocabulary.catalogue.path(one.value.table, other.value.table) is not None:
                count = m.Aggregated("count", table=one.value.table)
                below = m.Below(count, ColumnKey(other.value.table, key.name))
                yield Edge("BCP", one.start, other.end, below, (one.score + other.score) / 2)

    def _how_many_have_how_many(self, lowers: list[str], one: Edge, other: Edge) -> Iterator[Edge]:
        """How many owners have one animal, how many have two: how many there are with so many of them."""
        key = self.vocabulary.table(one.value.table).key
        behind = lowers[other.end :]
        again = next((n for n, pair in enumerate(itertools.pairwise(behind)) if pair in _HAS_TWO), None)
        asked = lowers[max(one.start - 2, 0) : one.start] == ["how", "many"]
        if key is None or again is None or again > 4 or not asked:
            return
        if self.vocabulary.catalogue.path(other.value.table, one.value.table) is not None:
            each = m.Below(m.Aggregated("count", table=other.value.table), ColumnKey(one.value.table, key.name))
            end = len(lowers) if lowers[-3:] == ["and", "so", "on"] else other.end + again + 2
            yield Edge("BESX", one.start - 2, end, (Counted(one.value), Grouped(each)), one.score + 1.0)

    def _first_times(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Guests who stayed for the first time: when the first of the rows was that tell of them."""
        lowers = [t.lower for t in tokens]
        for place in range(1, len(lowers) - 3):
            if lowers[place] != "for" or lowers[place + 2 : place + 4] != ["first", "time"]:
                continue
            nouns = [e for e in found if e.category in ("T", "C") and e.end < place and e.score >= 0.7]
            doings = {
                e.value.table for e in found if e.category == "T" and e.end == place and isinstance(e.value, Noun)
            }
            named = {e.value for e in nouns if isinstance(e.value, Noun)}
            # Owners who came for the first time did so in what tells of them, and not when they joined.
            things = {n for n in named if n.table is not None and next(self._first_rows(n, dated=True), None)}
            for noun in things or named:
                moments = list(self._first_rows(noun, dated=True))
                said = [b for b in moments if doings & {k.table for k in m.columns_in(b.quantity)}]
                for below in said or moments[:2]:
                    yield Edge("BD", place - 1, place + 4, below, 0.95 if said else 0.9)

    def _first_rows(self, noun: Noun, *, dated: bool = False) -> Iterator[m.Below]:
        """When things were first heard of, where nothing on their own rows says since when they are there, or `dated`."""
        if noun.table is not None:
            table = self.vocabulary.table(noun.table)
            if table.key is None or (table.time_column is not None and not dated):
                return
            for below in self.vocabulary.catalogue.tables:
                time = below.time_column
                if (
                    time is None
                    or below.name == noun.table
                    or is_birth(self.vocabulary, ColumnKey(below.name, time.name))
                ):
                    # Nobody was first heard of when their animal was born.
                    continue
                if self.vocabulary.catalogue.path(below.name, noun.table):
                    moment = m.Aggregated("min", m.Col(ColumnKey(below.name, time.name)))
                    yield m.Below(moment, ColumnKey(noun.table, table.key.name))
        elif noun.key is not None and self.vocabulary.column(noun.key).type is Type.TEXT:
            table, column = self.vocabulary.table(noun.key.table), self.vocabulary.column(noun.key)
            if table.time_column is not None and 1 < column.distinct < table.rows:
                moment = m.Aggregated("min", m.Col(ColumnKey(table.name, table.time_column.name)))
                yield m.Below(moment, noun.key)

    def _unknown(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """Content words that may name what nothing here is called."""
        known: set[int] = set()
        named: set[int] = set()
        for edge in found:
            if edge.category in ("V", "T") and edge.score >= 0.8:
                named.update(range(edge.start, edge.end))
            if edge.category in ("C", "D", "M", "F", "T", "V", "E", "Q", "TIME") and edge.score >= 0.5:
                known.update(range(edge.start, edge.end))
            if edge.category in _OPERATING:
                known.update(range(edge.start, edge.end))
        for place, token in enumerate(tokens):
            if token.kind == "word" and not (
                token.lower in _SMALL
                or token.lower in lexicon.fillers()
                or token.lower in lexicon.chatter()
                or token.lower in lexicon.prepositions()
                or token.lower in _UTMOST
                or (token.lower.endswith("ed") and (token.lower,) in lexicon.states())
            ):
                score = 0.5 if place not in known else 0.2 if place not in named else 0.1
                if place and token.text[:1].isupper() and token.text[1:2].islower() and not is_common(token.stem):
                    # What is written as a name is no word for rows.
                    continue
                if token.stem in _EMPTY_NOUNS:
                    score = 0.8
                yield Edge("U", place, place + 1, Noun(unknown=token.text), score)

    def _lasting_then(self, said: list[str]) -> Iterator[Edge]:
        """Words for what runs from one date to another, such as a policy in force: it did so on a day between them."""
        spans = [
            (first, last)
            for _, (first, last) in self.pairs
            if first.table == last.table and self._are_ends(first, last)
        ]
        for start in range(len(said)):
            for size in (2, 1):
                if tuple(said[start : start + size]) in _LIVE_WORDS:
                    for first, last in spans[:2]:
                        yield Edge("LIVE", start, start + size, self._live(first, last), 0.9)
                yield from self._lasting_now(said, start, size, spans[:1])

    def _live(self, first: ColumnKey, last: ColumnKey | None) -> tuple[m.Col, m.Col | None, bool, m.Col | None]:
        """From when to when something is there: as `Live` of the rules of conditions has it."""
        if last is None:
            return m.Col(first), None, False, None
        return m.Col(first), m.Col(last), bool(self.vocabulary.column(last).missing), self._broken_off(last)

    def _lasting_now(
        self, said: list[str], start: int, size: int, spans: list[tuple[ColumnKey, ColumnKey]]
    ) -> Iterator[Edge]:
        """What has begun and not ended yet, of what has both days: exhibitions open now, current shows."""
        words = tuple(said[start : start + size])
        behind = said[start + size : start + size + 2]
        now = next((n for n in (2, 1) if len(behind) >= n and tuple(behind[:n]) in _AT_PRESENT), 0)
        current = words in (("current",), ("active",), ("ongoing",))
        known = {table for table, _, _ in self.states.get(words, ())}
        if not (current or (now and (words in _LIVE_WORDS or words in _SHOWN_NOW))):
            return
        for first, last in spans:
            if first.table in known:
                continue
            if not self.vocabulary.column(last).missing and self.vocabulary.column(last).type.is_time:
                begun, going = m.Within(m.Col(first), None, self.day), m.Within(m.Col(last), self.day, None)
                yield Edge(
                    "STATE", start, start + size + now, Part(m.All((begun, going)), "state"), 0.93 + 0.1 * bool(now)
                )

    def _broken_off(self, last: ColumnKey) -> m.Col | None:
        """The day on which what was to run until another day was given up, such as a policy that was cancelled."""
        for table, condition, _ in self.states.get(("active",), ()):
            if table == last.table and isinstance(condition, m.All):
                early = next((c.column for c in condition.items if isinstance(c, m.Missing) and c.column != last), None)
                if early is not None:
                    return m.Col(early)
        return None

    def _there_then(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """How many sites we had at the end of a year: those that had begun by then and had not ended."""
        if not any(e.category == "TIME" for e in found):
            return
        lowers = [t.lower for t in tokens]
        rows = {e.value.table for e in found if e.category == "T" and e.score >= 0.8}
        # Tenants may be no rows of their own, and only stand on those of their tenancies.
        rows |= {e.value.key.table for e in found if e.category == "C" and e.score >= 0.9 and e.value.key is not None}
        for first, last in self._there_between:
            live = self._live(first, last)
            people = bool(PERSON_WORDS & {*self.vocabulary.tables[first.table].parts})
            for place, size in itertools.product(range(len(lowers)), (3, 2)):
                said = tuple(lowers[place : place + size])
                if said in _WE_HAD and (first.table in rows or (people and said in _WORKED_HERE)):
                    yield Edge("HAD", place, place + size, live, 0.9)
            for edge in found:
                noun = edge.value.noun if isinstance(edge.value, Counted) else edge.value
                if not isinstance(noun, Noun) or noun.table != first.table or edge.score < 0.8:
                    continue
                if edge.category == "T" and last is not None:
                    yield Edge("HADT", edge.start, edge.end, (noun, live), edge.score)
                counted = tuple(lowers[max(edge.start - 2, 0) : edge.start]) in _SO_MANY
                if (counted and edge.category == "T") or edge.category == "CNT":
                    yield Edge("HADC", edge.start - 2 * counted, edge.end, (noun, live), edge.score)

    @functools.cached_property
    def _there_between(self) -> list[tuple[ColumnKey, ColumnKey | None]]:
        """When somebody or something came to be there and when that ended; of people who never leave, when they came."""
        stays: list[tuple[ColumnKey, ColumnKey | None]] = [
            (first, last) for _, (first, last) in self.pairs if first.table == last.table and self._stays(first, last)
        ]
        known = {first.table for first, _ in stays}
        for table in self.vocabulary.catalogue.tables:
            time, parts = table.time_column, {*self.vocabulary.tables[table.name].parts}
            if table.name in known or time is None or not (PERSON_WORDS | _PEOPLE_BESIDES) & parts:
                continue
            key = ColumnKey(table.name, time.name)
            if _CAME_TO_BE & {*self.vocabulary.columns[key].full}:
                stays.append((key, None))
        return stays

    def _stays(self, first: ColumnKey, last: ColumnKey) -> bool:
        """True for when somebody or something came to be there, and when that ended."""
        came, went = ({*self.vocabulary.columns[k].full} for k in (first, last))
        return self._are_ends(first, last) or bool(_CAME_TO_BE & came and _CEASED_TO_BE & went)

    def _has_ends(self, table: str) -> bool:
        """True for rows that run from one date of theirs to another."""
        return any(f.table == table and self._are_ends(f, last) for _, (f, last) in self.pairs if last.table == table)

    def _ages_of_rows(self, found: Iterable[Edge], tokens: Sequence[Token]) -> Iterator[Edge]:
        """How old orders are is told from when they came in, and not from a birthday beside them; open ones in days."""
        lowers = [t.lower for t in tokens]
        starts = {e.start for e in found if e.category == "T" and e.score > 0.9}
        places = [
            (p, p + 1)
            for p, word in enumerate(lowers)
            if word in ("age", "ages") and (lowers[p + 1 : p + 2] == ["of"] or p + 1 in starts)
        ]
        places += [(p - 1, p + 1) for p, word in enumerate(lowers) if word == "old" and lowers[p - 1 : p] == ["how"]]
        unit: m.LengthUnit = (
            "days" if any(e.category in ("STATE", "LIVE") and e.score > 0.6 for e in found) else "years"
        )
        named = [e for e in found if e.category == "T" and e.score > 0.9 and places and e.start > places[0][0]]
        first = min((e.start for e in named), default=0)
        for table in {e.value.table for e in named if e.start == first}:
            time = self.vocabulary.table(table).time_column if table is not None else None
            if table is None or time is None or table in self.ages:
                continue
            if PERSON_WORDS & {*self.vocabulary.tables[table].parts}:
                continue
            length = m.Length(unit, m.Col(ColumnKey(table, time.name)), m.Today(self.day))
            yield from (Edge("E", start, end, Measured(length), 1.1) for start, end in places)

    def _not_for_so_long(self, tokens: list[Token]) -> Iterator[Edge]:
        """Who has not come for 60 days has not done so in the last 60 days."""
        lowers = [t.lower for t in tokens]
        for start, end, number, place in _numbers_of_units(tokens):
            begin = next((p for p in range(start - 1, max(start - 5, 0), -1) if lowers[p] in ("for", "in")), None)
            if begin is None or not {*lowers[begin + 1 : start]} <= _OR_LONGER or _stretch_of(tokens[place]) is None:
                continue
            ahead = lowers[max(begin - 8, 0) : begin]
            denied = bool(_SAYING_NO & {*ahead}) or any(w.endswith(("n't", "n’t")) for w in ahead)
            if not denied or (lowers[begin] == "in" and not _HAVING_DONE & {*ahead}) or not float(number).is_integer():
                continue
            last = tokenise(f"in the last {int(number)} {tokens[place].lower}")
            for mention in time_mentions(last, self.day, self.since):
                if mention.end == len(last):
                    yield Edge("TIME", begin, end, mention.span, 1.15)

    def _open_then(self, found: Iterable[Edge], tokens: Sequence[Token]) -> Iterator[Edge]:
        """Words for what is not done with: on a day gone by it was so from when it came in until it was done."""
        for edge in found:
            if edge.category != "STATE" or not isinstance(edge.value, Part):
                continue
            condition = edge.value.condition
            ways = condition.items if isinstance(condition, m.Any) else (condition,)
            done = next((c.column for c in ways if isinstance(c, m.Missing)), None)
            told = isinstance(condition, m.Is) and all(str(v).lower() in _NOT_DONE for v in condition.values)
            if done is None and not told:
                continue
            table = m.columns_in(condition)[0].table
            if tuple(t.lower for t in tokens[edge.start : edge.end]) in _LIVE_WORDS and self._has_ends(table):
                continue
            spans = [
                (first, last)
                for _, (first, last) in self.pairs
                if first.table == last.table == table
                and (last == done or (done is None and self.vocabulary.column(last).missing))
                and not PROMISED & set(self.vocabulary.columns[first].full)
            ]
            for place, (first, last) in enumerate(reversed(spans[-2:])):
                live = (m.Col(first), m.Col(last), True, None)
                yield Edge("LIVE", edge.start, edge.end, live, 0.92 - 0.02 * place)

    def _lengths(self, tokens: list[Token]) -> Iterator[Edge]:
        """How long something takes, from the dates of a table; other words of the question say which dates."""
        words = [t.stem for t in tokens]
        said = [t.lower for t in tokens]
        if (
            "been" in said
            and "long" in said
            and {"us", "here", "customer", "customers", "member", "members"} & set(said)
        ):
            # How long they have been with us runs from when they joined until today.
            start = said.index("long") - 1
            if start >= 0 and said[start] == "how":
                for score, key in self.vocabulary.columns_of_ideas(_JOINING, numeric=False, dated=True)[:2]:
                    until_now = m.Length("years", m.Col(key), m.Today(self.day))
                    yield Edge("E", start, start + 2, Measured(until_now), score + 0.1)
        if "been" in said and "there" in said and said[:2] == ["how", "long"]:
            # How long the tenants have been there runs from when they moved in, of those who have not moved out.
            for _, (first, last) in self.pairs:
                if first.table == last.table and self.vocabulary.column(last).missing:
                    until_now = m.Length("days", m.Col(first), m.Today(self.day))
                    yield Edge("E", 0, 2, Measured(until_now), 0.95 + 0.2 * bool(_COMING & {*name_parts(first.column)}))
        for start in range(len(said)):
            size = next((n for n in (3, 2) if tuple(said[start : start + n]) in _WITH_US), 0)
            for score, key in self.vocabulary.columns_of_ideas(_JOINING, numeric=False, dated=True)[:2] if size else ():
                yield Edge("WITHUS", start, start + size, Noun(key=key), min(score + 0.1, 0.97))
        yield from self._lasting_then(said)
        takes = bool({"take", "takes", "took", "taken", "last", "lasts", "lasted", "needs", "needed"} & set(said))
        for start in range(len(tokens)):
            for size in (5, 4, 3, 2, 1):
                lowers = tuple(t.lower for t in tokens[start : start + size])
                if len(lowers) < size or (unit := _LENGTHS.get(lowers)) is None:
                    continue
                if _is_period(tokens, start, start + size):
                    continue
                asked = start if lowers[0] == "how" else start - 2
                if asked > 0 and [t.lower for t in tokens[asked - 1 : asked + 2]] in _SUCH_DAYS:
                    # On how many days it was so: days are counted, and nothing lasts.
                    continue
                if size == 1 and start and tokens[start - 1].lower in ("on", "which", "what"):
                    # On days over 25 degrees: those days, and no time that anything took.
                    continue
                if lowers[:2] == ("how", "long") and {"waiting", "waited", "wait"} & set(said):
                    yield from (
                        Edge("LEN", start, start + size, Measured(waited), score)
                        for waited, score in self.derived.get(("wait",), ())
                        if isinstance(waited, m.Length)
                    )
                for table, (first, last) in self.pairs:
                    is_clock = self.vocabulary.column(first).type is Type.TIME
                    if first.table != last.table and lowers[0] not in ("how", "number", "days"):
                        continue
                    if lowers in _DELAYS:
                        if self._is_told(first, _SCHEDULED) and self._is_told(last, _ACTUALLY):
                            late = m.Length(self.vocabulary.natural_unit(first, last), m.Col(first), m.Col(last))
                            yield Edge("LEN", start, start + size, Measured(late), 0.95)
                        continue
                    if is_clock and unit in ("years", "months"):
                        continue
                    told_so = unit in ("hours", "minutes") if is_clock else unit != "any"
                    if unit in ("hours", "minutes") and self.vocabulary.column(first).type is Type.DATE:
                        # Two days are no hours apart.
                        continue
                    chosen: m.LengthUnit = unit if told_so else self.vocabulary.natural_unit(first, last)  # type: ignore[assignment]
                    plain = 0.45 if lowers[0] == "how" or lowers[0] == "number" else 0.32
                    plain += (
                        0.12 * self._names_rows_of(table, words)
                        + 0.05 * self._is_called(table, words)
                        + 0.15 * (takes and lowers[:2] == ("how", "many"))
                    )
                    score = plain + 0.16 * self._says(last, words) + 0.08 * self._says(first, words)
                    score += 0.07 * self._is_handled(first, last) + 0.08 * self._are_ends(first, last)
                    # What has an end lasted until then, and not until somebody came.
                    score += 0.04 * (lowers[0] in ("duration", "length") and self._is_told(last, _OVER))
                    if first.table != last.table:
                        ahead = last.table != table and bool(_AHEAD & {t.lower for t in tokens})
                        said_so = self._says(last, words) or self._says(first, words)
                        score += 0.2 * ahead - 0.1 - 0.25 * (not ahead and not said_so)
                    if lowers[0] in ("how", "length", "duration") and _ENDED & set(self.vocabulary.columns[first].full):
                        # How long it was runs from its beginning.
                        score -= 0.15
                    if {"stay", "stays", "stayed"} & {t.lower for t in tokens}:
                        # A stay is from when they came until they left, and not from when it was booked.
                        here = _COMING & {*name_parts(first.column)} and _GOING & {*name_parts(last.column)}
                        score += 0.2 if here else -0.1
                    score -= 0.12 * any(PROMISED & set(self.vocabulary.columns[k].full) for k in (first, last))
                    time = self.vocabulary.table(table).time_column
                    if time is not None and time.name == first.column:
                        score += 0.05
                    length = m.Length(chosen, m.Col(first), m.Col(last))
                    yield Edge("LEN", start, start + size, Measured(length), min(score, 0.95))
                    before = [words[start - 1]] if start and lowers in _SPANS else []
                    if self._says(last, before) or self._names_rows_of(table, before):
                        # Settlement time, repair time.
                        yield Edge("LEN", start - 1, start + size, Measured(length), min(score + 0.2, 0.95))
                if lowers in _DELAYS:
                    continue
                if lowers in (("how", "long"), ("time", "taken"), ("duration",), ("length",)):
                    for likeness, key in self.vocabulary.columns_of_ideas(_LASTING, numeric=True)[:3]:
                        parts = set(self.vocabulary.columns[key].parts)
                        timed = bool(parts & _SPELLS) or (key in self.united and self.united[key].family == "time")
                        if any(self._says(last, words) for _, (_, last) in self.pairs) and not parts & set(words):
                            # How long decisions take runs until they are made, and is no term of anything.
                            likeness -= 0.15
                        if self.vocabulary.column(key).role is not Role.MONEY and (timed or not self._lasts(key.table)):
                            yield Edge("LEN", start, start + size, Measured(m.Col(key)), likeness + 0.1 * timed)
                break

    def _measured(self, tokens: list[Token]) -> Iterator[Edge]:
        """A number with its unit, 10 kg or over three hours: of the columns measured in such, in their own unit."""
        yield from self._in_parties(tokens)
        yield from self._in_metres(tokens)
        for place, token in enumerate(tokens):
            if token.number is not None and token.text[:1] in _SIGNS_OF_MONEY:
                # Orders over £500 are told by what they came to, and not by the price of one.
                yield from (Edge("NU", place, place + 1, Amount(r, token.number), 1.2) for r in self.worked_revenue)
        for start, end, number, place in _numbers_of_units(tokens):
            if tokens[start].lower in ("a", "an") and not _is_held_against(tokens[:start]):
                # How much a month asks for each of them, and for none that lasted one.
                continue
            yield from self._lasting(tokens, start, end, number, place)
            unit = lexicon.units().get(tokens[place].lower)
            if unit is None:
                continue
            spanned = _SPANNED.get(tokens[place].lower) if unit.family == "time" else None
            for table, (first, last) in self.pairs if spanned is not None else ():
                if first.table == last.table and self.vocabulary.column(first).type is not Type.DATE:
                    named = 0.1 * self._names_rows_of(table, [t.stem for t in tokens])
                    length: m.LengthUnit = spanned  # type: ignore[assignment]
                    amount = Amount(m.Length(length, m.Col(first), m.Col(last)), float(number))
                    yield Edge("NU", start, end, amount, 0.6 + named)
            for score, key in self.vocabulary.columns_of_ideas(unit.ideas, numeric=True)[:4]:
                column = self.vocabulary.column(key)
                if column.role in (Role.IDENTIFIER, Role.LINK, Role.MONEY):
                    continue
                own = self._unit_of(key, unit.family)
                size = unit.size / own.size if own is not None else 1.0
                sure = min(score, 0.8) if own is None else max(0.96, score)
                if lexicon.units().get(spaced(key.column).lower()) == unit:
                    # A column that is headed by the unit alone is what is told in it.
                    sure = max(sure, 0.88)
                amount = Amount(m.Col(key), float(f"{number * size:.8g}"))
                yield Edge("NU", start, end, amount, sure)
            for key, own in self.united.items():
                if own.family == unit.family:
                    amount = Amount(m.Col(key), float(f"{number * unit.size / own.size:.8g}"))
                    yield Edge("NU", start, end, amount, 0.84)

    def _in_metres(self, tokens: list[Token]) -> Iterator[Edge]:
        """Trees over 20m are told by their height, where nothing here comes to twenty million."""
        places = [p for p, t in enumerate(tokens) if t.number is not None and re.fullmatch(r"[\d.]+m", t.lower)]
        if not places:
            return
        metres = lexicon.units()["metres"]
        told = {k: metres.size / own.size for k, own in self.united.items() if own.family == metres.family}
        highs = [float(c.high) for t in self.vocabulary.catalogue.tables for c in t.columns if c.is_measure and c.high]
        if not told and max(highs, default=0.0) < _MILLION:
            told = {k: 1.0 for _, k in self.vocabulary.columns_of_ideas(metres.ideas, numeric=True)[:2]}
        for place in places:
            number = float(tokens[place].lower[:-1])
            for rank, (key, size) in enumerate(told.items()):
                amount = Amount(m.Col(key), float(f"{number * size:.8g}"))
                yield Edge("NU", place, place + 1, amount, 1.1 - 0.1 * rank)

    def _in_parties(self, tokens: list[Token]) -> Iterator[Edge]:
        """Parties of more than six, a booking for eight: so many people came together."""
        sized = [next(together(self.vocabulary, t), None) for t in self.vocabulary.tables]
        counts = [found[0] for found in sized if found is not None]
        for place, token in enumerate(tokens[:-2]):
            if token.lower not in _IN_PARTIES or tokens[place + 1].lower not in ("of", "with", "for", "over", "under"):
                continue
            at = next((p for p in range(place + 2, min(place + 7, len(tokens))) if tokens[p].number is not None), None)
            if at is None or (at + 1 < len(tokens) and _stretch_of(tokens[at + 1]) is not None):
                continue
            for key in counts[:1]:
                yield Edge("NU", at, at + 1, Amount(m.Col(key), float(tokens[at].number or 0)), 0.95)
                if token.stem not in self.vocabulary.tables[key.table].parts:
                    yield Edge("T", place, place + 1, Noun(table=key.table), 0.9)

    def _lasting(self, tokens: list[Token], start: int, end: int, number: float, place: int) -> Iterator[Edge]:
        """Longer than a week, of rows that have a first and a last day."""
        unit = _stretch_of(tokens[place])
        if unit is None or unit[0] in ("minutes", "hours"):
            return
        seen: set[str] = set()
        for table, (first, last) in self.pairs:
            if first.table == last.table and self.vocabulary.column(first).type is Type.DATE and table not in seen:
                seen.add(table)
                named = 0.1 * self._names_rows_of(table, [t.stem for t in tokens])
                length = m.Length(unit[0], m.Col(first), m.Col(last))
                yield Edge("NU", start, end, Amount(length, number * unit[1]), 0.55 + named)

    def _in_other_units(self, tokens: list[Token]) -> Iterator[Edge]:
        """Kilos of a weight that stands in grams: the columns that a unit can be told in, and themselves told in it."""
        for place, token in enumerate(tokens):
            unit = lexicon.units().get(token.lower)
            inside = place > 0 and tokens[place - 1].lower == "in"
            if unit is None or token.kind != "word":
                continue
            yield from self._summed_in(tokens, unit, place)
            if token.lower.rstrip("s") in UNITS and not inside:
                continue
            for key, own in self.united.items():
                if own.family == unit.family:
                    factor = own.size / unit.size
                    told: m.Expr = m.Col(key)
                    if factor != 1.0:
                        told = m.Arithmetic("*", told, m.Number(float(f"{factor:.10g}")))
                    planned = 0.15 * bool(PLANNED & set(self.vocabulary.columns[key].parts))
                    # Per hour is of the hours that stand there, before it is of minutes told in them.
                    turned = 0.1 * (factor != 1.0)
                    yield Edge("TOLD", place, place + 1, (m.Col(key), told), 0.9 - planned - turned)

    def _summed_in(self, tokens: list[Token], unit: lexicon.UnitOf, place: int) -> Iterator[Edge]:
        """Kilos given out, hours worked: what stands in such a unit, added up, where no column is called so."""
        token, before_it = tokens[place], tokens[place - 1] if place else None
        after = tokens[place + 1] if place + 1 < len(tokens) else None
        called = self.vocabulary.columns_for((token.stem,))
        named = any(s >= 0.9 and self.vocabulary.column(k).is_measure for s, k in called)
        several = token.lower.endswith("s") or token.lower in _SHORT_UNITS
        if named or not several or unit.family in ("temperature", "speed"):
            return
        for key, own in self.united.items():
            if own.family != unit.family or self.vocabulary.column(key).role is Role.MONEY:
                continue
            factor = own.size / unit.size
            told: m.Expr = m.Col(key)
            if factor != 1.0:
                told = m.Arithmetic("*", told, m.Number(float(f"{factor:.10g}")))
            planned = 0.15 * bool(PLANNED & set(self.vocabulary.columns[key].parts))
            long = token.lower.rstrip("s") in ("day", "week", "month", "quarter", "year")
            planned += 0.2 * long
            if before_it is not None and before_it.stem in self.vocabulary.columns[key].parts:
                # Labour hours are the labour minutes told in hours.
                yield Edge("E", place - 1, place + 1, Measured(told), 0.98)
            if factor == 1.0 and token.lower in _SHORT_UNITS and (before_it is None or before_it.number is None):
                # How many m3 farms used, kWh used by month: the column itself, and what its name says of it.
                yield Edge("M", place, place + 1, Noun(key=key), 0.9 - planned)
                if after is not None and after.stem in self.vocabulary.columns[key].parts:
                    yield Edge("M", place, place + 2, Noun(key=key), 0.99)
            counted = before_it is not None and (before_it.number is not None or before_it.lower in ("many", "of"))
            if long and factor != 1.0 and not counted:
                # Days with a fault are days, and no hours of sun told in days.
                continue
            yield Edge("Q", place, place + 1, Worked(m.Aggregated("sum", told)), 0.72 - planned)
            if not long and not counted:
                yield Edge("E", place, place + 1, Measured(told), 0.7 - planned)

    def _in_bands(self, tokens: list[Token]) -> Iterator[Edge]:
        """Over 65 or under 16s, of bands that stand as text, or as columns of their own."""
        if not (self.bands or self.told_bands or self.ages):
            return
        for start, end, spoken, leeway in spoken_bands(tokens):
            if [t.lower for t in tokens[end : end + 1]] in (["percent"], ["%"], ["pct"]):
                # Those under 50 percent are of no age.
                continue
            for key, bands in self.bands.items():
                if values := within(spoken, bands, leeway=leeway):
                    yield Edge("V", start, end, Values(key, values), 0.9)
            if start and tokens[start - 1].lower in _CALLED_SO:
                # Children under 12 are told by their age, whatever else is called children.
                told = {t: e for t, e in self.ages.items() if e in self.ages_of_people}
                born = {t: e for t, e in told.items() if isinstance(e, m.Length)}
                for table, expr in (born or told).items():
                    if self._is_counted(expr) and (aged := self._aged(expr, spoken, tokens[start].lower)):
                        such = (Part(aged, "value"), Noun(table=table))
                        yield Edge("AGED", start - 1, end, such, 0.95)
            elif (
                start > 1 and tokens[start - 1].lower == "(" and (young := _of_an_age(tokens[: start - 1])) is not None
            ):
                # Children's operations (under 16): what is meant by children is said in brackets.
                for expr in dict.fromkeys(self.ages_of_people):
                    if self._is_counted(expr) and (aged := self._aged(expr, spoken, tokens[start].lower)):
                        yield Edge("K", start, end, Part(aged, "value"), 1.3)
                        yield Edge("IDLE", young, young + 1, "", 0.9)
            elif tokens[end - 1].lower.endswith("s") and tokens[start].lower in ("over", "under"):
                # The over-80s, under 16s: people of that age, whatever else there is more than eighty of.
                for table, expr in self.ages.items():
                    if self._is_counted(expr) and (aged := self._aged(expr, spoken, tokens[start].lower)):
                        yield Edge("K", start, end, Part(aged, "value"), 1.3)
                        yield Edge("AGED", start, end, (Part(aged, "value"), Noun(table=table)), 0.9)
            elif start and (tokens[start - 1].lower in _GENDERED or _is_who(tokens[start - 1])):
                # Policies taken out by people under 25 are of no people but these.
                whole = tokens[start - 1].lower in ("people", "persons", "those", "anyone", "someone", "adults")
                led = start > 1 and tokens[start - 2].lower in ("by", "for", "from", "to", "of", "among", "with")
                for expr in dict.fromkeys(self.ages_of_people):
                    if self._is_counted(expr) and (aged := self._aged(expr, spoken, tokens[start].lower)):
                        yield Edge("K", start, end, Part(aged, "value"), 0.9)
                        if whole and led:
                            yield Edge("K", start - 2, end, Part(aged, "value"), 1.05)
            for key in self.numbered_ages:
                if aged := self._aged(m.Col(key), spoken, tokens[start].lower):
                    yield Edge("K", start, end, Part(aged, "value"), 0.9)
            for columns in self.told_bands.values():
                if keys := within(spoken, columns, leeway=leeway):
                    joint, everybody = (m.added_up(m.Col(k) for k in ks) for ks in (keys, [k for k, _ in columns]))
                    begin = start - (
                        start > 0 and tokens[start - 1].lower in ("people", "persons", "those", "residents")
                    )
                    yield Edge("E", begin, end, Measured(joint), 0.85 + 0.06 * (end - begin))
                    share = m.Combined("/", m.Aggregated("sum", joint), m.Aggregated("sum", everybody), percent=True)
                    yield Edge("OFAGE", begin, end, Worked(share), 0.95)

    def _of_grades(self, found: Sequence[Edge], tokens: list[Token]) -> Iterator[Edge]:
        """D or worse, better than C: every letter on that side of it, where a column holds letters from A on."""
        ops = [(e.start, e.end, str(e.value)) for e in found if e.category == "CMP"] if self.graded else []
        tails = {e.start: (e.end, str(e.value)) for e in found if e.category == "ORMORE"} if self.graded else {}
        for place, token in enumerate(tokens):
            for key, grades in self.graded.items():
                if token.text not in grades:
                    continue
                at = grades.index(token.text)
                better, worse = grades[:at], grades[at + 1 :]
                for start, end, op in ops:
                    such = {">": better, ">=": (*better, token.text), "<": worse, "<=": (token.text, *worse)}.get(op)
                    if end == place and such:
                        yield Edge("V", start, place + 1, Values(key, such), 0.97)
                if place + 1 in tails:
                    end, op = tails[place + 1]
                    such = (*better, token.text) if op == ">=" else (token.text, *worse)
                    yield Edge("V", place, end, Values(key, such), 0.97)

    def _is_counted(self, age: m.Expr) -> bool:
        """True where an age is a number, worked out or told; one that stands as a band is text."""
        return not isinstance(age, m.Col) or self.vocabulary.column(age.key).type.is_number

    @staticmethod
    def _aged(age: m.Expr, spoken: Band, word: str) -> m.Condition | None:
        """An age that lies in what is spoken of."""
        low, high = spoken
        ends: list[m.Condition] = []
        if low > 0:
            ends.append(m.Compared(">" if word in _STRICTLY else ">=", age, m.Number(low)))
        if high < math.inf:
            ends.append(m.Compared("<", age, m.Number(high + 1)))
        return m.All(tuple(ends)) if len(ends) > 1 else ends[0] if ends else None

    def _occupied(self, tokens: list[Token]) -> Iterator[Edge]:
        """Empty homes are those that no running tenancy is of; what share of the homes has one is the occupancy."""
        lowers = [t.lower for t in tokens]
        for place, token in enumerate(tokens):
            said = token.lower in _EMPTY or token.lower in _LET
            shares = [(len(w), let) for w, let in _OCCUPANCY.items() if tuple(lowers[place : place + len(w)]) == w]
            # How many are let says that they are, where "let me see" says nothing.
            start = place - (place > 0 and lowers[place - 1] in ("is", "are", "currently", "now", "being"))
            if not said and not shares:
                continue
            for table, things, condition, score in self._let:
                has: m.Condition = m.Has(m.Rows(table, (condition,)))
                if said:
                    held = m.Not(has) if token.lower in _EMPTY else has
                    yield Edge("STATE", start, place + 1, Part(held, "state"), score - 0.02)
                for size, let in shares:
                    share = m.ShareOf((has if let else m.Not(has),), things)
                    yield Edge("Q", place, place + size, Worked(share), score)

    @functools.cached_property
    def _let(self) -> list[tuple[str, str, m.Condition, float]]:
        """Tables of what is let for a time, with the things that are let, what is so of what still runs, and how sure that is."""
        found = []
        for link in self.vocabulary.catalogue.relationships:
            key = self.vocabulary.table(link.table).key
            told = self.vocabulary.columns[ColumnKey(link.table, key.name)] if key is not None else None
            words = {*self.vocabulary.tables[link.table].parts, *(told.described if told is not None else ())}
            things = {*self.vocabulary.tables[link.other].parts}
            for_a_time = _OCCUPYING & words or (_CONTRACTED & words and _LET_FOR_A_TIME & things)
            if for_a_time and not PERSON_WORDS & things:
                active = [(c, s) for table, c, s in self.states.get(("active",), ()) if table == link.table]
                found += [(link.table, link.other, c, s) for c, s in active[:2]]
        return found

    def _profiting(self, tokens: list[Token]) -> Iterator[Edge]:
        """Loss making, most profitable: by the profit that the columns make."""
        profits = [e for e, _ in self.derived.get(("profit",), ()) if isinstance(e, m.Arithmetic)]
        for place in range(len(tokens)):
            for size in (3, 2, 1):
                lowers = tuple(t.lower for t in tokens[place : place + size])
                if len(lowers) < size:
                    continue
                for expr in profits:
                    # The most profitable is told by how much, and not by how often there was any.
                    ranked = place > 0 and tokens[place - 1].lower in ("most", "least")
                    if (lowers in _AT_LOSS or lowers in _IN_PROFIT) and not ranked:
                        op: m.Comparison = "<" if lowers in _AT_LOSS else ">"
                        part = Part(m.Compared(op, expr, m.Number(0)), "state")
                        yield Edge("STATE", place, place + size, part, 0.9)
                    if lowers in (("most", "profitable"), ("least", "profitable")):
                        yield Edge("SUP", place, place + 2, Top(lowers[0] == "most", by=expr), 0.9)

    def _rated(self, tokens: list[Token]) -> Iterator[Edge]:
        """The attendance rate is of those who attended; what is still fermenting is not finished."""
        for place, token in enumerate(tokens[:-1]):
            if tokens[place + 1].lower in ("rate", "rates", "ratio", "percentage"):
                for words, found in self.states.items():
                    if len(words) == 1 and stem(words[0]) == token.stem and words[0] != token.lower:
                        yield from (Edge("STATE", place, place + 1, Part(c, "state"), s) for _, c, s in found)
            following = tokens[place + 1].lower
            if token.lower == "still" and following.endswith("ing") and (token.lower, following) not in self.states:
                for _, condition, score in self.states.get(("open",), ()):
                    yield Edge("STATE", place, place + 2, Part(condition, "state"), score - 0.15)

    def _with_an_article(self, tokens: list[Token]) -> Iterator[Edge]:
        """Charged to the customer, of a column that is called charged to customer."""
        for place in range(2, len(tokens) - 1):
            if tokens[place].lower not in ("the", "a", "an") or tokens[place - 1].lower not in lexicon.prepositions():
                continue
            for start, end in itertools.product((place - 2, place - 3), (place + 2, place + 3)):
                if start < 0 or end > len(tokens):
                    continue
                stems = tuple(t.stem for t in (*tokens[start:place], *tokens[place + 1 : end]))
                for score, key in self.vocabulary.columns_for(stems)[:1]:
                    if score >= 0.97 and tokens[place - 1].lower in name_parts(key.column):
                        yield from self._column(key, score, start, end)

    def _said_in_two_words(self, tokens: list[Token]) -> Iterator[Edge]:
        """Drivers taken on are those that were hired."""
        for place, (one, two) in enumerate(itertools.pairwise(tokens)):
            said = _TWO_WORDS.get((one.lower, two.lower))
            if said is None:
                continue
            as_one = [
                *tokens[:place],
                dataclasses.replace(one, text=said, lower=said, stem=stem(said)),
                *tokens[place + 2 :],
            ]
            for edge in self._span(as_one, place, place + 1):
                if edge.category != "W":
                    yield dataclasses.replace(edge, end=place + 2, score=edge.score - 0.02)

    def _said_whole_elsewhere(self, found: list[Edge], tokens: list[Token]) -> list[Edge]:
        """Gas is the gas cost where cost is said too, and not the gas that was used.

        Of columns that share the word said, the one whose other words stand elsewhere in the question is meant.
        """
        said = {t.stem for t in tokens}
        named: dict[int, list[tuple[Edge, set[str]]]] = {}
        for edge in found:
            if edge.category == "M" and edge.end == edge.start + 1 and isinstance(edge.value, Noun) and edge.value.key:
                parts = set(self.vocabulary.columns[edge.value.key].parts)
                if tokens[edge.start].stem in parts and len(parts) > 1:
                    named.setdefault(edge.start, []).append((edge, parts))
        better: dict[Edge, float] = {}
        for edges in named.values():
            whole = [e for e, parts in edges if parts <= said]
            if len(whole) == 1 and len(edges) > 1:
                better[whole[0]] = max(e.score for e, _ in edges) + 0.05
        return [dataclasses.replace(e, score=max(e.score, better[e])) if e in better else e for e in found]

    def _with_its_kind(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """A membership type is the membership, where that tells kinds and no other column is called so."""
        named = {(e.start, e.end) for e in found if e.category == "C" and e.score >= 0.95}
        for edge in found:
            if edge.category != "C" or edge.score < 0.95 or not isinstance(edge.value, Noun) or edge.value.key is None:
                continue
            said = tokens[edge.end].stem if edge.end < len(tokens) else ""
            column = self.vocabulary.column(edge.value.key)
            if said not in _KIND_WORDS or (edge.start, edge.end + 1) in named or column.role is not Role.CATEGORY:
                continue
            if not _KIND_WORDS & set(self.vocabulary.columns[edge.value.key].parts):
                yield dataclasses.replace(edge, end=edge.end + 1, score=edge.score - 0.02)

    def _earners(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """The highest earners are the people on whose rows it stands what they earn."""
        for place, token in enumerate(tokens):
            if token.lower not in ("earner", "earners"):
                continue
            paid = [e for e in found if (e.category, e.start, e.end) == ("MV", place, place + 1)]
            # The people themselves before those who play a part beside others of them.
            best = max(paid, key=lambda e: (e.score, -len(e.value.key.table)), default=None)
            key = best.value.key if best is not None and isinstance(best.value, Noun) else None
            if key is not None and (EMPLOYED | PERSON_WORDS) & {*self.vocabulary.tables[key.table].parts}:
                yield Edge("EARNER", place, place + 1, Top(True, by=m.Col(key), noun=Noun(table=key.table)), 0.95)

    def _who_wrote(self, tokens: list[Token]) -> Iterator[Edge]:
        """People who commented: those of whom there is a comment."""
        for place, token in enumerate(tokens[1:], 1):
            before = tokens[place - 1].lower
            if before not in ("who", "that", "which", "have", "has") or not token.lower.endswith("ed"):
                continue
            for score, key in self.vocabulary.columns_for((token.stem,)):
                column = self.vocabulary.column(key)
                if score >= 0.9 and column.type is Type.TEXT and column.missing and column.role is not Role.PERSON:
                    yield Edge("STATE", place, place + 1, Part(m.Not(m.Missing(key)), "gap"), score)

    def _taken_apart(self, tokens: list[Token]) -> Iterator[Edge]:
        """How many days were lost: those of a column called days lost."""
        for place, (one, be, two) in enumerate(zip(tokens, tokens[1:], tokens[2:], strict=False)):
            if be.lower not in ("were", "was", "are", "is") or not is_participle(two.lower) or one.kind != "word":
                continue
            for score, key in self.vocabulary.columns_for((one.stem, two.stem))[:2]:
                both = {one.stem, two.stem} <= {*self.vocabulary.columns[key].parts}
                if score >= 0.95 and both and self.vocabulary.column(key).is_measure:
                    yield Edge("M", place, place + 3, Noun(key=key), score + 0.05)

    def _still_there(self, tokens: list[Token]) -> Iterator[Edge]:
        """No longer with us, not working here any more; have stayed, present drivers: whether somebody is still there."""
        words = [t.lower for t in tokens]
        for place, word in enumerate(words):
            end, state = place, ""
            if words[place : place + 2] == ["no", "longer"]:
                end, state = _past_those(words, place + 2, _THERE), "inactive"
            elif word in _NOT_NOW:
                there = _past_those(words, place + 1, _THERE)
                more = next((n for n in (2, 1) if tuple(words[there : there + n]) in _ANY_MORE), 0)
                after = _past_those(words, there + more, _THERE)
                end, state = (after, "inactive") if more and after > place + 1 + more else (place, "")
            elif word in ("stayed", "remained") and words[place - 1 : place] in (["have"], ["has"]):
                end, state = _past_those(words, place + 1, _THERE), "active"
            elif (
                word in ("present", "existing")
                and place + 1 < len(words)
                and tokens[place + 1].stem in PERSON_WORDS | _WORKING_PEOPLE
            ):
                end, state = place + 1, "active"
            for _, condition, score in self.states.get((state,), ()) if end > place else ():
                yield Edge("STATE", place, end, Part(condition, "state"), score + 0.02 * (end - place))

    def _is_how_often(self, key: ColumnKey, stems: tuple[str, ...]) -> bool:
        """True for a whole number that says how often what a participle says was done: renewals, of renewed."""
        column = self.vocabulary.column(key)
        if len(stems) != 1 or len(stems[0]) < 4 or column.type is not Type.INTEGER or not column.is_measure:
            return False
        return any(p[:5] == stems[0][:5] for p in self.vocabulary.columns[key].parts)

    def _heard(self, token: Token, start: int, end: int) -> Iterator[Edge]:
        """How people find us, where a column says it: heard from, found us by, source."""
        if token.lower not in _HEARING:
            return
        for key, words in self.vocabulary.columns.items():
            said = _HEARD & {*name_parts(key.column)}
            if said and self.vocabulary.column(key).role is Role.CATEGORY:
                sure = any(lexicon.related(token.stem, stem(w)) or w == _HEARING[token.lower] for w in said)
                yield Edge("HEARD", start, end, Noun(key=key), 0.9 if sure else 0.7 - 0.05 * (len(words.parts) > 2))

    def _of_so_many(self, key: ColumnKey, word: str) -> str:
        """ONEOF for one of what a column counts, a red card; SOMEOF for several of what many rows have none of."""
        column, last = self.vocabulary.column(key), name_parts(key.column)[-1:]
        if not column.is_measure or column.role is not Role.QUANTITY or column.type is not Type.INTEGER:
            return ""
        if last == [f"{word}s"]:
            return "ONEOF"
        return "SOMEOF" if last == [word] and word.endswith("s") and column.low == "0" else ""

    def _without_anybody(self, tokens: list[Token]) -> Iterator[Edge]:
        """Departments with nobody in them: those without people, whatever these are called."""
        for place, (one, two) in enumerate(itertools.pairwise(t.lower for t in tokens)):
            no_one = two == "no" and [t.lower for t in tokens[place + 2 : place + 3]] == ["one"]
            nobody = no_one or two in ("nobody", "no-one", "noone")
            empty = one in ("with", "has", "have", "having", "had") and nobody
            if not empty and not (one in ("without", "w/o") and two in ("anybody", "anyone", "people")):
                continue
            end = place + 2 + no_one
            if [t.lower for t in tokens[end : end + 1]] in (["working"], ["employed"], ["there"]):
                end += 1
            if [t.lower for t in tokens[end : end + 2]] in (["in", "it"], ["in", "them"], ["on", "it"], ["at", "all"]):
                end += 2
            named = self._names((stem("people"),), ("people",), place, end, one=False)
            people = [e for e in named if e.category == "T" and isinstance(e.value, Noun)]
            if people:
                # Whoever plays a part there, such as those who manage others, is there as one of the people.
                best = max(people, key=lambda e: e.score)
                none = m.Not(m.Has(m.Rows(str(best.value.table))))
                yield Edge("K", place, end, Part(none, "related"), best.score + 0.3)

    def _heads_as_written(self, tokens: list[Token]) -> Iterator[Edge]:
        """A column called by its whole head, with its unit and its brackets as they are written there."""
        lowers = [t.lower for t in tokens]
        for size in {len(said) for said in self.heads}:
            for start in range(len(lowers) - size + 1):
                for key in self.heads.get(tuple(lowers[start : start + size]), ()):
                    words = sum(t.kind == "word" for t in tokens[start : start + size])
                    yield from self._column(key, 0.95 + 0.05 * words, start, start + size)

    def _owing(self, tokens: list[Token]) -> Iterator[Edge]:
        """What is owed, where it is what was due less what was paid; in arrears are those who owe."""
        owed = [
            (expr, score)
            for expr, score in self.derived.get(("owed",), ())
            if isinstance(expr, (m.Arithmetic, m.Given))
        ]
        for place, token in enumerate(tokens) if owed else ():
            end = place + 1
            if token.lower in ("owe", "owes", "owed", "owing"):
                yield from (Edge("OWED", place, end, Measured(expr), score) for expr, score in owed)
                if (what := tokens[end : end + 1]) and (what[0].lower, "outstanding") in self.derived:
                    end += 1
                else:
                    continue
            elif token.lower == "in" and [t.lower for t in tokens[end : end + 1]] == ["arrears"]:
                end += 1
            elif token.lower == "behind" and [t.lower for t in tokens[end : end + 1]] in (["with"], ["on"]):
                # Behind with their rent.
                end += 1 + sum(
                    t.lower in ("the", "their", "his", "her", "its", "our") for t in tokens[end + 1 : end + 2]
                )
                end += 1
                if end > len(tokens):
                    continue
            else:
                continue
            for expr, score in owed:
                yield Edge("K", place, end, Part(m.Compared(">", expr, m.Number(0)), "number"), score + 0.1)

    def _undone(self, tokens: list[Token]) -> Iterator[Edge]:
        """Unfilled, unsigned: nothing stands where it would say that, it says no, or there are no such rows."""
        for place, token in enumerate(tokens):
            if not token.lower.startswith(("un", "never-")) or len(token.lower) < 6:
                continue
            done = stem(token.lower.removeprefix("never").removeprefix("un").removeprefix("-"))
            if is_participle(token.lower) and (token.stem,) not in self.vocabulary.values:
                for score, table in self.vocabulary.tables_for((done,))[:1]:
                    if score >= 0.7:
                        yield Edge("STATE", place, place + 1, Part(m.Not(m.Has(m.Rows(table))), "related"), score)
                for score, key in self.vocabulary.columns_for((done,))[:2]:
                    if (
                        score >= 0.7
                        and self.vocabulary.column(key).missing
                        and done not in self.vocabulary.columns[key].parts
                    ):
                        yield Edge("STATE", place, place + 1, Part(m.Missing(key), "state"), score)
            for key, words in self.vocabulary.columns.items():
                column = self.vocabulary.column(key)
                if done not in words.parts:
                    continue
                if column.type is Type.BOOLEAN:
                    yield Edge("STATE", place, place + 1, Part(m.Is(key, (False,)), "state"), 0.9)
                elif column.missing and not column.is_measure:
                    yield Edge("STATE", place, place + 1, Part(m.Missing(key), "state"), 0.9)

    def _doing(self, tokens: list[Token], found: list[Edge]) -> Iterator[Edge]:
        """What someone does to the things that there are most of, and what says nothing here: sent us the most parcels."""
        known = {
            p
            for e in found
            if e.category in ("V", "STATE", "F", "E", "DOER", "MISSING")
            or (e.category in ("C", "M", "D", "T") and e.score > 0.6)
            for p in range(e.start, e.end)
        }
        for place, token in enumerate(tokens[:-1]):
            verb = token.lower in _BRINGS
            if token.kind != "word" or token.lower in lexicon.fillers() or (place in known and not verb):
                continue
            if (token.lower,) in lexicon.phrases() or token.lower in lexicon.prepositions() or token.number is not None:
                continue
            if any(t.lower in _EXTREME for t in tokens[place + 1 : place + 4]) and place > 0:
                # What is owed is told in money, and not by how often.
                trouble = token.stem in lexicon.troubles() and token.stem not in (
                    stem("owe"),
                    stem("owed"),
                    stem("owes"),
                )
                so = [
                    c
                    for words, said in (self.states.items() if trouble else ())
                    if (stem(words[0]),) == (token.stem,) * len(words)
                    for c in said
                ]
                # Who misses the most are those who missed it, and none who merely do something.
                yield from (Edge("STATE", place, place + 1, Part(c, "state"), score) for _, c, score in so)
                if not so:
                    yield Edge("DO", place, place + 1, token.lower, 0.6)

    def _traded(self, tokens: list[Token]) -> Iterator[Edge]:
        """What they spent is what their orders came to, where no column has it; units sold are none that were thrown away."""
        selling = bool({"sell", "sold", "sells", "selling"} & {t.lower for t in tokens})
        for place, token in enumerate(tokens):
            if token.lower in _TRADING and self.worked_revenue:
                yield Edge("E", place, place + 1, Measured(self.worked_revenue[0], verb=True), 0.85)
            if selling and len(self.units_sold) == 1 and token.lower in ("units", "items", "pieces", "unit"):
                yield Edge("E", place, place + 1, Measured(self.units_sold[0]), 1.1)

    def _is_priced(self, value: object) -> bool:
        """True for the price of a thing, or a most that goes by it."""
        by = value.by if isinstance(value, Top) else None
        key = value.key if isinstance(value, Noun) else by.key if isinstance(by, m.Col) else None
        return key is not None and stem("price") in self.vocabulary.columns[key].parts

    def _worked_revenue(self, trades: Mapping[str, Trade]) -> list[m.Expr]:
        """What sales come to that is worked out of a price and a quantity, where no column of money is added up."""
        summed = any(
            c.role is Role.MONEY and c.role.is_summed for t in self.vocabulary.catalogue.tables for c in t.columns
        )
        sold = [found.revenue for t, found in trades.items() if not may_be_stock(self.vocabulary, t, found)]
        return [] if summed else [r for r in sold if isinstance(r, m.Arithmetic)]

    def _given_so_often(self, tokens: list[Token], found: list[Edge]) -> list[Edge]:
        """At least 20 ratings are so many rows with one, and no rating of 20."""
        made = []
        for edge in found:
            key = edge.value.key if edge.category == "M" and isinstance(edge.value, Noun) else None
            if key is None or edge.score < WHOLE_NAME or edge.end != edge.start + 1 or edge.start == 0:
                continue
            word, number = tokens[edge.start].lower, tokens[edge.start - 1].number
            column = self.vocabulary.column(key)
            scored = column.role is Role.SCORE and word.endswith("s") and word not in name_parts(key.column)
            if scored and number is not None and column.high is not None and number > float(column.high):
                made.append(Edge("T", edge.start, edge.end, Noun(table=key.table), 1.2))
        return made

    def _money_of(self, found: list[Edge], tokens: list[Token]) -> Iterator[Edge]:
        """Snack spend and bar takings are the column of money that is called snacks, or bar."""
        for edge in found:
            key = edge.value.key if edge.category == "M" and isinstance(edge.value, Noun) else None
            after = tokens[edge.end].lower if edge.end < len(tokens) else ""
            named = key is not None and edge.score >= WHOLE_NAME and self.vocabulary.column(key).role.is_summed
            if not named or key in self._told_in_heads or {*name_parts(key.column)} <= _WHOLES_SAID:  # type: ignore[union-attr]
                # Ticket income is what the tickets brought in, and no number of them.
                continue
            if after in _MONEY_OF and stem(after) not in self.vocabulary.columns[key].parts:  # type: ignore[index]
                yield dataclasses.replace(edge, end=edge.end + 1, score=1.05)

    def _as_money(self, edge: Edge, found: list[Edge], tokens: list[Token]) -> Edge:
        """Outstanding fees are those that nobody paid yet, where a column tells, and none of what is still open otherwise."""
        if (
            edge.category not in ("STATE", "LIVE")
            or tokens[edge.start].lower not in _OWING
            or edge.end != edge.start + 1
        ):
            return edge
        beside = any(
            e.category == "M"
            and e.score >= WHOLE_NAME
            and edge.start in (e.end, e.start - 1)
            and self.vocabulary.column(e.value.key).role is Role.MONEY
            for e in found
        )
        paying = {
            id(e): any(_SETTLED & {*self.vocabulary.columns[k].parts} for k in m.columns_in(e.value.condition))
            for e in found
            if e.category == "STATE" and e.start == edge.start and isinstance(e.value, Part)
        }
        if not beside or not any(paying.values()):
            return edge
        return dataclasses.replace(edge, score=edge.score + (0.4 if paying.get(id(edge)) else -0.4))

    @functools.cached_property
    def _told_in_heads(self) -> set[ColumnKey]:
        """The columns that say how many came together, or how many tickets were sold."""
        return {key for table in self.vocabulary.tables for key, _ in together(self.vocabulary, table)}

    def _takes_minutes(self, table: str) -> bool:
        """True where a column tells how many minutes or hours each row took."""
        return any(
            k.table == table
            and u.family == "time"
            and u.size < _A_DAY
            and not _LATENESS & {*self.vocabulary.columns[k].parts}
            for k, u in self.united.items()
        )

    def _unit_of(self, key: ColumnKey, family: str) -> lexicon.UnitOf | None:
        """The unit that a column is measured in, where its name or what was said of it tells."""
        if self.vocabulary.column(key).type is Type.DURATION:
            return lexicon.units()["seconds"] if family == "time" else None
        if family == "time" and stem("minimum") in self.vocabulary.columns[key].full:
            return None
        written = spaced(key.column).lower().split()
        cubed = any(w in lexicon.units() and not w.isalpha() for w in written)
        said = (
            *re.findall(r"[a-z]+", (self.vocabulary.column(key).unit or "").lower()),
            *reversed(written if cubed else name_parts(key.column)),
            *re.findall(r"[a-z]+", self.vocabulary.column(key).description.lower()),
        )
        if family == "time" and _IN_A_SPAN.search(key.column):
            # Downloads in the first 7 days are no days.
            return None
        found = next((u for w in said if (u := lexicon.units().get(w)) is not None and u.family == family), None)
        high = self.vocabulary.column(key).high
        if (
            found is None
            and family == "time"
            and high is not None
            and _RUNNING_TIME & {*self.vocabulary.columns[key].parts}
        ):
            # Films that run for 140 do so for minutes, and a day has no more hours than 24.
            lasts = float(high) if self.vocabulary.column(key).is_measure else 0.0
            return lexicon.units()["hours" if lasts <= 24 else "minutes"] if 0 < lasts <= _LONGEST_SHOW else None
        return found

    def _is_day_called(self, word: str, table: str) -> bool:
        """True where a day in a table is called by a word: sown of sown_on."""
        dated = (c for c in self.vocabulary.table(table).columns if c.type.is_time)
        return any(word in self.vocabulary.columns[ColumnKey(table, c.name)].parts for c in dated)

    def _by_size(self, tokens: list[Token]) -> Iterator[Edge]:
        """Orders by size band: the size of each is its main figure, where no column is called so."""
        banded = [p for p, t in enumerate(tokens[:-1]) if t.lower == "size" and tokens[p + 1].lower in _BANDED]
        if not banded or any(stem("size") in words.parts for words in self.vocabulary.columns.values()):
            return
        said = {t.stem for t in tokens}
        for place in banded:
            for name, words in self.vocabulary.tables.items():
                sizes = [c for c in self.vocabulary.table(name).columns if c.is_measure and c.role.is_summed]
                if said & {*words.parts} and sizes:
                    yield Edge("E", place, place + 1, Measured(m.Col(ColumnKey(name, sizes[0].name))), 0.95)

    def _taken(self, tokens: list[Token]) -> Iterator[Edge]:
        """Took, lasted: how long from the start to the end of the rows that are meant."""
        words = [t.stem for t in tokens]
        for place, token in enumerate(tokens):
            if token.lower not in _TAKING:
                continue
            for table, (first, last) in self.pairs:
                if self.vocabulary.column(first).type is Type.TIME or first.table != last.table:
                    continue
                score = (
                    0.5
                    + 0.2 * self._names_rows_of(table, words)
                    + 0.1 * (self._says(first, words) + self._says(last, words))
                )
                length = m.Length(self.vocabulary.natural_unit(first, last), m.Col(first), m.Col(last))
                yield Edge("TOOK", place, place + 1, Measured(length), score)

    def _days_called(self, tokens: Sequence[Token]) -> Iterator[ColumnKey]:
        """The columns of days whose whole name is several words."""
        said = [t.lower for t in tokens]
        for key in self.vocabulary.columns if len(said) > 1 else ():
            if self.vocabulary.column(key).type.is_time and [*name_parts(key.column)] == said:
                yield key

    def _are_ends(self, first: ColumnKey, last: ColumnKey) -> bool:
        """True for the beginning and the end of the same: from when a policy runs, and until when."""
        one, two = (self.vocabulary.columns[k].full for k in (first, last))
        alike = set(one) - _STARTED == set(two) - _FINISHED
        return alike and bool(_STARTED & set(one)) and bool(_FINISHED & set(two))

    def _is_handled(self, first: ColumnKey, last: ColumnKey) -> bool:
        """True where something was reported at first and done with at last: how long it took is told of that."""
        return self._is_told(first, _REPORTED) and self._is_told(last, _DEALT_WITH)

    def _is_told(self, key: ColumnKey, ideas: frozenset[str]) -> bool:
        """True where one of some stems stands in a column's name or description."""
        words = self.vocabulary.columns[key]
        return bool(ideas & {*words.full, *words.described})

    def _is_called(self, table: str, words: list[str]) -> bool:
        return bool({*self.vocabulary.tables[table].parts} & {*words})

    def _names_rows_of(self, table: str, words: list[str]) -> bool:
        return any(lexicon.related(w, p) for w in words for p in self.vocabulary.tables[table].parts)

    def _says(self, key: ColumnKey, words: list[str]) -> bool:
        names = self.vocabulary.columns[key]
        return any(lexicon.related(w, p) for w in words for p in names.parts if len(w) > 2)


def _is_small(token: Token) -> bool:
    """True for a word that says nothing; US and IT as they stand in a column's name say something."""
    return token.lower in lexicon.fillers() and not (token.meant and token.text.isupper())


def _is_of_one_year(tokens: list[Token]) -> bool:
    """True for a question of one year, in which each month comes once."""
    years = [n for n, t in enumerate(tokens) if t.kind == "number" and t.number and 1900 <= t.number <= 2100]
    return len(years) == 1 and years[0] > 0 and tokens[years[0] - 1].lower in ("in", "of", "for", "during")


def _is_unit(word: str) -> bool:
    return (
        word in lexicon.units() or word.rstrip("s") in UNITS or word.rstrip("s") in ("night", "pound", "euro", "room")
    )


def _edges_of_bands(tokens: list[Token]) -> Iterator[Edge]:
    """Bands listed one by one, "under 10, 10 to under 50, 50 or more": the low edges of all but the first."""
    words = [t.lower for t in tokens]
    for start in range(len(tokens)):
        edges: list[float] = []
        place, bands, upper, begins = start, 0, -1.0, words[start] in _BELOW
        while place < len(tokens):
            here = place
            if words[place] in _BELOW and not edges:
                while place < len(tokens) and (words[place] in _BELOW or words[place] in ("than", "to")):
                    place += 1
            elif words[place] in _ABOVE and edges:
                while place < len(tokens) and (words[place] in _ABOVE or words[place] == "than"):
                    place += 1
            if place >= len(tokens) or tokens[place].number is None:
                place = here
                break
            number = float(tokens[place].number)  # type: ignore[arg-type]
            place, bands = place + 1, bands + 1
            if words[here] in _ABOVE and number == upper:
                # Over 10, after 6 to 10, begins right behind it.
                number = math.nextafter(number, math.inf)
            if not edges or number > edges[-1]:
                edges.append(number)
            place += place < len(tokens) and _is_unit(words[place])
            if place < len(tokens) and words[place] in ("to", "-", "–"):
                place += 1
                while place < len(tokens) and words[place] in (*_BELOW, "than"):
                    place += 1
                if place >= len(tokens) or tokens[place].number is None:
                    break
                upper = float(tokens[place].number)  # type: ignore[arg-type]
                place += 1
                place += place < len(tokens) and _is_unit(words[place])
            while (
                place < len(tokens)
                and words[place] in ("and", "or")
                and place + 1 < len(tokens)
                and words[place + 1] in _OPEN
                and all(t.number is None for t in tokens[place + 2 : place + 3])
            ):
                place += 2
            if place < len(tokens) and words[place] == "+":
                place += 1
            if place < len(tokens) and words[place] in (",", "and", "&", ";"):
                place += 1
                if place < len(tokens) and words[place] == "and":
                    place += 1
            else:
                break
        if len(edges) >= 2 and bands >= 3:
            # What lies under the first edge is a band of its own where it is named.
            yield Edge("EDGES", start, place, (-math.inf, *edges) if begins else tuple(edges), 0.95)


_SIZES = frozenset(["size", "sizes", "value", "worth", "amount"])
_BELOW = frozenset(["under", "below", "less", "up"])
_ABOVE = frozenset(["over", "above", "more"])
_OPEN = frozenset(["up", "over", "more", "above", "older"])
_STATED = frozenset(stem(w) for w in ["status", "state", "stage", "reason", "ref", "reference", "id", "code", "number"])


def _of_an_age(tokens: list[Token]) -> int | None:
    """The place of the word for people of an age that stands last or last but one; None where none does."""
    places = (p for p in range(len(tokens) - 1, max(len(tokens) - 3, -1), -1) if tokens[p].stem in OF_AN_AGE)
    return next(places, None)


def _with_its_column(found: list[Edge]) -> Iterator[Edge]:
    """High priority tickets: a value with the name of its column behind it is that value, before what it is said of."""
    rows = {e.start for e in found if e.category == "T" and e.score >= WHOLE_NAME}
    columns = {
        (e.start, e.value.key): e for e in found if e.category == "C" and isinstance(e.value, Noun) and e.score >= 0.9
    }
    for edge in found:
        if edge.category == "V" and isinstance(edge.value, Values) and edge.score >= 0.6:
            column = columns.get((edge.end, edge.value.column))
            if column is not None and column.end in rows:
                yield dataclasses.replace(edge, end=column.end, score=edge.score + 0.1)


def _whose_things(found: list[Edge], tokens: list[Token]) -> Iterator[Edge]:
    """Which site's showings sell most is asked of the sites: what they have is what is worked out for each."""
    things = {e.start: e for e in found if e.category == "T" and e.score >= WHOLE_NAME}
    for edge in found:
        asked = edge.start > 0 and tokens[edge.start - 1].lower in ("which", "what")
        if edge.category == "C" and asked and edge.score >= 0.8 and tokens[edge.end - 1].lower.endswith(("'s", "s'")):
            thing = things.get(edge.end)
            if thing is not None and thing.value.table != edge.value.table:
                yield dataclasses.replace(edge, end=thing.end)


def _measured_of_rows(found: list[Edge], tokens: list[Token]) -> Iterator[Edge]:
    """Boat length, the length of a boat: the one of the boats, of all that may be meant by length."""
    rows = [e for e in found if e.category == "T" and e.score >= WHOLE_NAME and isinstance(e.value, Noun)]
    for edge in found:
        if edge.category not in ("M", "LEN") or edge.score < 0.5 or is_participle(tokens[edge.end - 1].lower):
            continue
        key = edge.value.key if isinstance(edge.value, Noun) else None
        if key is None and isinstance(edge.value, Measured) and isinstance(edge.value.expr, m.Col):
            key = edge.value.expr.key
        for row in rows if key is not None else ():
            if key is None or row.value.table != key.table:
                continue
            between = [t.lower for t in tokens[edge.end : row.start]]
            score = max(edge.score, 0.75) + 0.15
            if row.end == edge.start:
                yield Edge("M", row.start, edge.end, Noun(key=key), score)
            elif edge.end < row.start and between[0] == "of" and set(between[1:]) <= _ARTICLES_OF and len(between) < 3:
                yield Edge("M", edge.start, row.end, Noun(key=key), score - 0.05)


def _before_it(tokens: list[Token], found: list[Edge]) -> list[Edge]:
    """The word last where it stands for the time before one: this quarter against last, and not against last summer."""
    times = {e.start for e in found if e.category == "TIME" and e.end > e.start + 1}
    return [
        Edge("BEFOREIT", place, place + 1, None, 0.9)
        for place, token in enumerate(tokens)
        if token.lower in ("last", "previous", "prior", "preceding", "before") and place not in times
    ]


_TRADING = frozenset(
    ["spend", "spends", "spent", "spending", "pay", "pays", "paid", "earn", "earned", "earns", "make", "makes", "made", "take", "takes", "took", "bring",
     "brings", "brought"]
)  # fmt: skip
_SIGNS_OF_MONEY = ("£", "$", "€")
_ASKING_IT = frozenset(["is", "had", "has", "any", "with", "was", "a"])
_WHOLES_SAID = frozenset(["total", "amount", "sum", "value", "net", "gross", "price", "cost"])
_MONEY_OF = frozenset(["spend", "spending", "income", "revenue", "takings", "sales", "money", "amount", "earnings"])
_OWING = frozenset(["outstanding", "due", "owing", "pending"])
_SETTLED = stems("paid settled cleared received payment")
_A_DAY = 1440.0
"""Minutes."""
_LATENESS = stems("late delay delayed wait waiting overdue")
_SHORT_UNITS = frozenset(["kg", "km", "kwh", "mwh", "m2", "m3", "lb", "oz", "ml", "ha"])
"""Short forms that stand for any number of a unit."""
_PAID_FOR = BOUGHT | frozenset([stem("orders"), stem("sales")])
"""Rows of what somebody pays for."""
_LOSING = frozenset(["lost", "lose", "loses", "losing"])
_PROFITS = frozenset(stem(w) for w in ["profit", "profits", "result", "surplus", "earnings", "gain", "margin"])
_HOURS = frozenset(["hours", "hrs", "minutes", "mins"])
_LOGS = frozenset(
    ["log", "list", "data", "report", "record", "records", "register", "sheet", "file", "export", "extract"]
)
"""What a table is called whose name does not say what its rows are."""
_DOINGS = ("ions", "ings", "ments")
_PRICED_BY = frozenset(["price", "cost", "fee", "rate", "rrp", "charge", "value", "rent", "salary", "pay", "amount"])
_BEFORE_A_RATE = frozenset(
    ["average", "avg", "mean", "median", "highest", "lowest", "total", "by", "per", "and", "of", "with", "best", "base",
     "flat", "max", "min", "maximum", "minimum", "pay", "price", "fee", "charge", "daily", "hourly", "monthly", "weekly",
     "unit", "day", "hour", "night", "nightly", "list", "standard", "current", "what", "which", "is", "in", "at", "on"]
)  # fmt: skip
"""Words after which a rate may be a price."""
_PERIODICALLY = tuple(
    frozenset(map(stem, names.split()))
    for names in ("yearly annual annually", "monthly regular recurring", "quarterly termly", "fortnightly biweekly")
)
"""Words that say the same of how often something comes."""
_FAINT = 0.45
"""How well a column is called that nobody means by a word that is another column's own."""
_DIM = 0.55
"""How well a thing is called that nobody means by a word that is a value."""
_UP_TO_MONEY = frozenset(
    [
        "under",
        "over",
        "above",
        "below",
        "less",
        "more",
        "than",
        "at",
        "least",
        "most",
        "up",
        "to",
        "between",
        "is",
        "are",
        "costing",
        "priced",
        "worth",
        "of",
    ]
)
_QUESTION_WORDS = frozenset(
    [
        "how",
        "what",
        "which",
        "who",
        "whose",
        "when",
        "where",
        "why",
        "more",
        "most",
        "less",
        "least",
        "than",
        "between",
        "if",
    ]
)
_SMALL = frozenset(
    [
        "year",
        "years",
        "month",
        "months",
        "week",
        "weeks",
        "day",
        "days",
        "quarter",
        "quarters",
        "weekday",
        "hour",
        "hours",
        "time",
    ]
)
_WITH_US = frozenset(
    [
        ("with", "us"),
        ("been", "with", "us"),
        ("been", "here"),
        ("been", "customers"),
        ("been", "members"),
        ("on", "our", "books"),
    ]
)
_ONE_OF = frozenset(["a", "an", "one", "each", "every", "per"])
_OR_LONGER = frozenset(
    ["over", "more", "than", "at", "least", "the", "last", "past", "about", "around", "nearly", "well"]
)
_SAYING_NO = frozenset(["not", "no", "never", "nobody", "none", "without", "neither", "nothing"])
_HAVING_DONE = frozenset(
    ["have", "has", "had", "haven't", "hasn't", "hadn't", "haven’t", "hasn’t", "havent", "hasnt", "been"]
)
_COMING = frozenset(["arrive", "arrival", "arrived", "arr", "checkin", "in", "admitted", "admission", "from", "start"])
_GOING = frozenset(
    ["depart", "departure", "departed", "dep", "checkout", "out", "discharged", "discharge", "left", "to", "end"]
)
_NOT_DONE = frozenset(
    ["open", "pending", "outstanding", "in progress", "ongoing", "unresolved", "active", "waiting", "new"]
)
"""Values of a status that say that something is not done with."""
_BEFORE_THINGS = frozenset(
    ["which", "what", "each", "every", "per", "a", "an", "one", "any", "no", "by", "this", "that"]
)
_TYING = frozenset(["correlation", "correlations", "correlate", "corr"])
_OF_ITS_NUMBERS = frozenset(
    [
        "matrix",
        "heatmap",
        "heat",
        "map",
        "table",
        "of",
        "for",
        "in",
        "on",
        "among",
        "between",
        "across",
        "the",
        "all",
        "numbers",
        "numeric",
        "columns",
        "figures",
        "measures",
        "its",
        "every",
        "pair",
    ]
)
_MOST_TIED = 5
"""How many numbers are tied two by two; more make no matrix that can be read."""
_HAS_ONE = frozenset(
    tuple(w.split()) for w in ("have one", "have 1", "has one", "has 1", "had one", "had 1", "got one")
)
_HAS_TWO = frozenset((has, two) for has in ("have", "has", "had", "got") for two in ("two", "2"))
_OVER_EACH = frozenset(
    tuple(words.split())
    for words in (
        "per",
        "a",
        "for each",
        "for every",
        "by",
        "in each",
        "of each",
        "over the",
        "across the",
        "among the",
        "spread over the",
        "spread across the",
        "spread among the",
        "divided among the",
    )
)
_LIVE_WORDS: frozenset[tuple[str, ...]] = frozenset(
    [
        ("active",),
        ("in", "force"),
        ("live",),
        ("running",),
        ("current",),
        ("valid",),
        ("in", "place"),
        ("employed",),
        ("let",),
        ("occupied",),
        ("under", "contract"),
        ("on", "hire"),
        ("in", "effect"),
        ("staying",),
    ]
)
_SHOWN_NOW = frozenset([("open",), ("on",), ("showing",), ("on", "show"), ("under", "way"), ("going", "on")])
_AT_PRESENT = frozenset([("now",), ("currently",), ("today",), ("right", "now"), ("at", "present")])
_SUCH_DAYS = (["on", "how", "many"], ["in", "how", "many"])
_LENGTHS = {
    ("how", "long"): "any",
    ("how", "soon"): "any",
    ("how", "quickly"): "any",
    ("how", "many", "days"): "days",
    ("how", "far", "ahead"): "days",
    ("how", "far", "in", "advance"): "days",
    ("how", "long", "in", "advance"): "days",
    ("how", "many", "days", "in", "advance"): "days",
    ("how", "many", "days", "ahead"): "days",
    ("how", "early"): "days",
    ("how", "many", "hours"): "hours",
    ("how", "many", "minutes"): "minutes",
    ("number", "of", "days"): "days",
    ("duration",): "any",
    ("length",): "any",
    ("days",): "days",
    ("hours",): "hours",
    ("minutes",): "minutes",
    ("time", "taken"): "any",
    ("time",): "any",
    ("times",): "any",
    ("turnaround",): "any",
    ("delay",): "any",
    ("delays",): "any",
    ("lateness",): "any",
    ("lead", "time"): "any",
    ("years",): "years",
    ("months",): "months",
    ("stay",): "days",
}
_DEALS = frozenset(
    stem(w) for w in ["orders", "bookings", "purchases", "transactions", "visits", "appointments", "deals"]
)
_CHARGED = frozenset(
    stem(w)
    for w in ["charge", "charged", "fee", "fees", "fare", "price", "bill", "billed", "takings", "payment", "rent"]
)
"""What a row brings in is called so where nothing there is called a total."""
_PARTLY = frozenset(["net", "vat", "tax", "gst", "discount", "tip", "deposit"])
"""Words of what is only a part of what is to be paid."""
_RUNNING_TIME = stems("runtime running")
_MILLION = 1e6
_LONGEST_SHOW = 900
"""Minutes that something shown lasts at most."""
_CALLED_SO_ITSELF = 0.7
"""How surely a column is called by an idea's own word, and not by one that is like it."""
_STANDING = stems("value worth balance nbv")
_HANDED_OVER = stems("paid cost price")
_CALLED_SPEND = stems("spend spent")
_IN_PARTIES = frozenset(["party", "parties", "group", "groups", "booking", "bookings", "table", "tables"])
"""What people who come together are, as their number is spoken of."""
_DELAYS = frozenset([("delay",), ("delays",), ("lateness",), ("minutes", "late"), ("delayed",)])
_SCHEDULED = frozenset(
    stem(w) for w in ["planned", "scheduled", "due", "promised", "expected", "target", "agreed", "timetabled"]
)
_ACTUALLY = frozenset(
    stem(w)
    for w in [
        "actual",
        "completed",
        "finished",
        "delivered",
        "arrived",
        "left",
        "returned",
        "done",
        "closed",
        "shipped",
    ]
)
_AHEAD = frozenset(["lead", "ahead", "advance", "beforehand", "early", "before"])
_SPANS = frozenset([("time",), ("times",), ("duration",), ("length",)])
_LOADED = frozenset(
    ["wait", "waits", "waited", "waiting", "miss", "missed", "misses", "lose", "lost", "loses", "refund", "refunded",
     "refunds", "save", "saved", "saves", "grant", "granted", "request", "requested", "award", "awarded"]
)  # fmt: skip
"""Verbs that leave something out where they are passed over."""
_CHANGING = frozenset(["GROWTH", "CHG", "DIFF", "SHARE", "AGG", "COUNT"])
_LOWEST = frozenset(stem(w) for w in ["minimum", "lowest", "low"])
_HIGHEST = frozenset(stem(w) for w in ["max", "maximum", "highest", "high"])
_CALLED_SO = frozenset(
    [
        "children",
        "kids",
        "child",
        "people",
        "persons",
        "adults",
        "those",
        "anyone",
        "everyone",
        "everybody",
        "boys",
        "girls",
    ]
)
_EACH = tuple((stem(w),) for w in ["price", "cost", "weight", "height", "duration", "speed", "temperature"])
"""What things have each, so that of several it is averaged."""
_PARTS_OF = frozenset(stem(w) for w in ["rate", "proportion", "share", "percentage", "percent", "ratio"])
_REPORTED = frozenset(stem(w) for w in ["reported", "raised", "logged", "received", "opened", "requested", "submitted"])
_DEALT_WITH = frozenset(
    stem(w) for w in ["closed", "settled", "completed", "fixed", "resolved", "done", "finished", "decided", "repaired"]
)
_COUNTLESS = frozenset(
    ["million", "thousand", "hundred", "billion", "percent", "pct", "pound", "euro", "dollar", "per", "point", "plus"]
)
_REASONS = frozenset(stem(w) for w in ["reason", "cause", "why"])
_SOONER = frozenset(["later", "earlier", "sooner", "older", "newer", "in"])
_LASTED: dict[str, m.LengthUnit] = {"hours": "hours", "minutes": "minutes", "days": "days"}
_GENDERED = frozenset(["women", "men", "girls", "boys", "females", "males", "ladies"])
_GROUPED = frozenset(
    [
        "group",
        "groups",
        "bracket",
        "brackets",
        "band",
        "bands",
        "class",
        "classes",
        "level",
        "levels",
        "category",
        "categories",
    ]
)
_OF_RATINGS = frozenset(stem(w) for w in ["rating", "blank", "answer", "statement", "score", "unanswered", "missing"])
_BLANK = frozenset(["blank", "blanks", "missing", "empty", "unanswered", "skipped"])
_ANSWERS = frozenset(["answers", "answer", "ratings", "responses", "replies", "items", "statements", "scores"])
_SCORES = frozenset(["score", "scores", "rating", "ratings", "mark", "marks"])
_HIGHEST_GRADE = 10
_ROWS_ASKED = frozenset(["list", "rows", "records", "details", "individual", "every", "transactions", "lines"])
"""What asks for rows themselves."""
_LEVELS = frozenset(["level", "tier", "granularity", "hierarchy"])
_RATED_THINGS = frozenset(stem(w) for w in ["statement", "item", "question", "aspect"])
_PROMOTERS = ("promoters", "promoter", "promoting")
_DETRACTORS = ("detractors", "detractor", "detracting")
_LEADING = frozenset(
    [
        "boss",
        "manager",
        "mgr",
        "supervisor",
        "superior",
        "reports",
        "managed",
        "supervised",
        "chief",
        "head",
        "lead",
        "leader",
    ]
)
_BOSSES = frozenset(["boss", "bosses", "manager", "managers", "supervisor", "supervisors", "superior", "superiors"])
_COINS = frozenset(["euro", "pound", "dollar", "€", "£", "$", "coin", "penny", "cent", "franc", "krona"])
_SPENT = frozenset(
    tuple(said.split())
    for said in (
        "spent", "put in", "paid out", "laid out", "invested", "we spend", "we spent", "we put in", "we invest",
        "we invested", "we pay", "we paid", "that we spend", "that we spent", "that we put in", "that went out", "going out",
        "they spend", "they spent", "they put in", "we put into it", "spent on it", "spent on them",
    )
)  # fmt: skip
_STRICTLY = frozenset(["over", "above", "older", "more"])
_SWIFT = {"fastest": True, "quickest": True, "slowest": False}
_LOST = frozenset(
    stem(w) for w in ["churn", "churned", "attrition", "exited", "left", "departed", "resigned", "leaver", "quit"]
)
_GONE = frozenset(
    [
        "left",
        "lose",
        "loses",
        "losing",
        "leave",
        "leaves",
        "leaving",
        "lost",
        "quit",
        "quits",
        "gone",
        "departed",
        "leavers",
    ]
)
_STAYING = frozenset(
    ["stay", "stays", "stayed", "staying", "remained", "remain", "retain", "retained", "keep", "kept", "stayers"]
)
_AT_WORK = frozenset(["work", "works", "worked", "working", "do", "does", "did", "doing"])
_AMOUNTS = frozenset(["amount", "amt", "value"])
_NO_ROWS = frozenset(
    [
        "total",
        "net",
        "gross",
        "tax",
        "vat",
        "discount",
        "unit",
        "average",
        "paid",
        "due",
        "tip",
        "market",
        "book",
        "line",
    ]
)
"""What an amount may be called that no rows are."""
_RECORDS = frozenset(["payments", "records", "entries", "transactions", "rows", "lines", "movements"])
_ARTICLES_OF = frozenset(["the", "a", "their", "its", "his", "her", "our", "each", "every"])
_SPENDING = frozenset(["spend", "spent", "spends", "spending"])
_WORKED_HERE = frozenset(
    [("worked", "here"), ("working", "here"), ("were", "employed"), ("we", "employed"), ("work", "here"), ("we", "employ"), ("worked", "for", "us")]
)  # fmt: skip
_WE_HAD = _WORKED_HERE | frozenset(
    (*said.split(),)
    for said in [
        "did we have",
        "did they have",
        "did you have",
        "we had",
        "they had",
        "had we",
        "were there",
        "was there",
        "there were",
        "were here",
        "with us",
        "on board",
        "we have had",
    ]
)
"""How people say that something was there at a time."""
_SO_MANY = frozenset([("how", "many"), ("number", "of"), ("count", "of"), ("no", "of"), ("#", "of")])
_PEOPLE_BESIDES = stems("account supplier vet")
"""Who may come to be there beside those that `PERSON_WORDS` has."""
_CAME_TO_BE = stems("start started begin began join joined hire hired open opened admit admitted move moved since")
_CEASED_TO_BE = stems(
    "end ended leave left leaving close closed cancel cancelled stop stopped discharge discharged terminated expired"
)
_JOINED_OR_LEFT = frozenset(
    ["left", "leave", "leaves", "leaving", "joined", "join", "joins", "joining", "quit", "started"]
)
_THE_HOUSE = frozenset(["company", "firm", "business", "organisation", "organization", "house", "us", "practice"])
_ENDMOST: dict[str, Literal["min", "max"]] = {
    "first": "min", "earliest": "min", "last": "max", "latest": "max", "recent": "max"
}  # fmt: skip
_HEADS = frozenset(["head", "capita", "person", "resident", "inhabitant", "citizen"])
_ASKERS = frozenset(["we", "they", "you", "i", "been", "it"])
_PAST = frozenset(
    ["gave", "paid", "bought", "sold", "spent", "went", "took", "came", "made", "brought", "earned", "claimed", "sent"]
)
"""Forms of verbs that are no nouns."""
_ORDERING = frozenset(["sort", "order", "rank", "group", "count", "list", "name", "plot", "chart", "graph", "rate"])
_BIDDING = frozenset(["", "please", "and", "then", "now", "also", "can", "you", "to", ",", "but", "just"])
_WHAT_IS_ORDERED = frozenset(
    ["it", "them", "these", "this", "that", "those", "by", "from", "high", "low", "highest", "lowest", "in", "ascending",
     "descending", "alphabetically", "the", "biggest", "largest", "smallest", "with"]
)  # fmt: skip
_GOING_FOR = frozenset(["sell", "sells", "sold", "selling", "goes", "going", "went", "retails", "retail"])
_KIND_WORDS_ALONE = frozenset(["type", "kind", "category", "group", "status", "level", "name", "code"])
_TWO_WORDS = {
    ("taken", "on"): "hired",
    ("took", "on"): "hired",
    ("signed", "up"): "joined",
    ("turned", "over"): "turnover",
    ("put", "in"): "installed",
    ("checking", "in"): "arriving",
    ("checked", "in"): "arrived",
    ("checking", "out"): "departing",
    ("checked", "out"): "departed",
    ("let", "go"): "left",
    ("sent", "back"): "returned",
    ("given", "back"): "returned",
    ("handed", "in"): "submitted",
    ("sent", "off"): "dispatched",
    ("called", "off"): "cancelled",
    ("shut", "down"): "closed",
    ("set", "up"): "created",
    ("paid", "out"): "paid",
    ("paid", "in"): "paid",
    ("carried", "out"): "done",
    ("broke", "down"): "failed",
}
"""Verbs of two words, and the one that tables would write."""
_CAME_THERE = frozenset(
    stem(w)
    for w in ["attended", "attendance", "attendees", "visitors", "participants", "turnout", "present", "admissions"]
)
_STAFFING = frozenset(
    ["work", "works", "worked", "employ", "employs", "staff", "teach", "teaches", "lead", "leads", "run", "runs", "who"]
)
"""What people do who are not among those that came."""
_SHARING = frozenset(["percentage", "percent", "share", "proportion", "fraction", "%"])
_KEEPING = frozenset(
    stem(w)
    for w in [
        "stock", "list", "register", "inventory", "log", "data", "export", "report", "sheet", "book", "schedule", "records",
        "roll", "file", "table", "database", "overview", "master", "export", "extract", "summary", "tracker", "dump", "view",
    ]
)  # fmt: skip
"""What a file is called that says nothing of what its rows are."""
_HANDLED = frozenset(
    [
        "assigned",
        "handled",
        "sold",
        "served",
        "seen",
        "done",
        "managed",
        "closed",
        "approved",
        "led",
        "taught",
        "completed",
    ]
)
_ENDING_A_NAME = frozenset(["date", "no", "number", "id", "ref", "nr"])
_OF_ANY_ROW = frozenset(
    ["start", "end", "due", "last", "first", "next", "created", "updated", "birth", "expiry", "close", "open", "report",
     "entry", "value", "post", "out", "back", "in", "off", "on", "up", "time", "date", "renewal", "review", "row", "line", "record", "phone", "id", "ref", "account"]
)  # fmt: skip
"""What many columns are called that says nothing of what the rows are."""
_DIARIES = frozenset(["log", "diary", "history", "usage", "movements", "readings", "checks"])
_PEOPLE_COUNTED = frozenset(stem(w) for w in ["people", "persons", "inhabitants", "residents", "population", "heads"])
_SELLING = frozenset(["sell", "sells", "sold", "selling", "buy", "buys", "bought"])
_EMPTY = frozenset(["empty", "vacant", "unlet", "unoccupied", "untenanted", "unrented", "free", "available", "void"])
_LET = frozenset(["let", "occupied", "tenanted", "rented", "taken"])
_OCCUPYING = stems(
    "tenancy tenancies lease letting occupancy tenant tenants rental rentals hire hires stay stays licence agreement agreements"
)
"""What rows are called by which a thing is somebody's for a time."""
_CONTRACTED = stems("contract booking reservation allocation assignment subscription")
_LET_FOR_A_TIME = stems(
    "berth mooring plot allotment unit desk pitch stall bay locker garage house flat apartment home office space room bed kennel stable court"
)
"""What somebody may have for a time by a contract, or is free."""
_OCCUPANCY = {("occupancy",): True, ("occupancy", "rate"): True, ("vacancy", "rate"): False, ("void", "rate"): False}
"""How much of what can be let is let, or is not."""
_ENDED = frozenset(stem(w) for w in ["end", "ended", "finish", "fin", "closed", "expiry", "left", "due"])
_STARTED = frozenset(
    stem(w) for w in ["start", "started", "begin", "began", "beginning", "from", "opened", "inception"]
)
_BEGINS = frozenset(stem(w) for w in ["start", "begin", "commence", "began"])
_ARRIVING = frozenset(
    stem(w) for w in ["arrival", "arrive", "arrived", "checkin", "admission", "admitted", "collection", "pickup"]
)
_LEAVING = frozenset(
    stem(w) for w in ["departure", "depart", "checkout", "discharge", "discharged", "leaving", "return", "returned"]
)
_HEARING = {"find": "found", "found": "found", "hear": "heard", "heard": "heard", "discover": "found", "learn": "heard"}
_HEARD = frozenset(["found", "heard", "source", "referral", "channel", "discovered"])
_OVER = frozenset(stem(w) for w in ["ended", "finished", "completed"])
_FINISHED = _ENDED | {stem(w) for w in ["until", "to", "till", "stop"]}
_AT_LOSS = frozenset(
    tuple(p.split())
    for p in (
        "loss making",
        "loss-making",
        "lossmaking",
        "at a loss",
        "made a loss",
        "making losses",
        "unprofitable",
        "lost money",
    )
)
_IN_PROFIT = frozenset(tuple(p.split()) for p in ("profitable", "made a profit", "in profit", "made money"))
_CALLED_BY_NUMBER = [[w] for w in ("no", "number", "num", "nr", "id", "code", "ref", "reference", "reg")]
_AT_AN_END = frozenset(["top", "bottom", "first", "last", "best", "worst", "most", "least"])
_IN_A_SPAN = re.compile(r"\d+[ _-]*(?:day|week|month|hour|minute|year)s?\b", re.IGNORECASE)
_NAMING = frozenset(["V", "C", "T", "F"])
_PERIODIC = {
    "week": "weekly",
    "month": "monthly",
    "year": "yearly",
    "day": "daily",
    "hour": "hourly",
    "annum": "annual",
}
_PAID_AT = frozenset(
    stem(w) for w in ["rate", "price", "cost", "fee", "charge", "pay", "wage", "salary", "earnings", "rent"]
)
"""What an amount for each of something is called."""
_DENYING = frozenset(["off", "not", "no", "non", "ex", "out", "left", "without"])
_HONOURS = frozenset(["merit", "distinction", "credit", "honours", "commended"])
_COSTS = frozenset(["cost", "costs", "spend", "spending", "bill", "bills", "expense", "expenses", "expenditure"])
_COST_STEMS = frozenset(stem(w) for w in ["cost", "amount", "total", "paid", "bill", "charge", "price", "fee", "spend"])
_PERCENTAGES = frozenset(["percentage", "percent", "pct", "share", "proportion", "rate", "%"])
_PERCENT_STEMS = frozenset(stem(w) for w in ["percentage", "percent", "pct", "perc", "share", "proportion", "rate"])
_KIND_WORDS = frozenset(["kind", "type", "sort", "categorie", "category", "class"])
_KIND_NAMES = tuple((stem(w),) for w in ("kind", "type", "category", "class", "sort"))
_PERIODS_OF = frozenset(["monthly", "weekly", "daily", "yearly", "annual", "quarterly", "hourly"])
_SPANNED = {
    word: unit
    for unit in ("minutes", "hours", "days")
    for word in (unit, unit.removesuffix("s"), {"minutes": "mins", "hours": "hrs", "days": "d"}[unit])
}
_NUMBER_WORDS = frozenset(
    ["number", "numbers", "no", "no.", "id", "ids", "code", "codes", "ref", "refs", "reference", "#"]
)
_SURELY_CALLED = 0.95
"""From here on a word is a column's own name, and none for what is like it."""
_BRINGS = frozenset(
    ["bring", "brings", "brought", "bringing", "generate", "generates", "generated", "produce", "produces"]
)
"""Verbs that say no more than that something comes of it."""
_MAKES = frozenset(["make", "makes", "made", "take", "takes", "took", "taken"])
_COMES = frozenset(["come", "comes", "came", "coming"])
_EARNS = frozenset(["earn", "earns", "earned", "earning", "gross", "grosses", "grossed"])
_BARE_DOING = 0.45
"""How much less surely rows called by a doing are meant by the bare word."""
_RUNNING = frozenset(["total", "totals", "sum", "sums", "balance", "average", "count", "tally"])
_DEALT = frozenset(["receipt", "order", "invoice", "basket", "transaction", "docket", "booking"])
"""What several rows may be of, and is told by its number."""
_SPELLED = 0.7
"""How sure the link to a value is at least that is spelled like it, and not only an idea of it."""
_ASKED_OF = frozenset(
    ["which", "what", "each", "every", "per", "by", "a", "best", "worst", "busiest", "quietest", "of", "last", "this"]
)
_RELATIVE = frozenset(["who", "whom", "which", "whose"])
_MOST_MADE_OF = 60
"""Values that a column may have for a word to be taken for what one of them makes."""
_EXTREMES = {"min": "minimum", "max": "max", "minimum": "minimum", "maximum": "max"}
"""The ends of a range, as they stand in names."""
_NOUNS_TOO = frozenset(["make", "makes", "let", "lets"])
"""Small words that may be what a column is called."""
_AFTER_A_NOUN = frozenset(
    [
        "",
        "?",
        ".",
        ",",
        "and",
        "by",
        "in",
        "of",
        "for",
        "with",
        "per",
        "are",
        "do",
        "does",
        "did",
        "have",
        "has",
        "is",
        "there",
    ]
)
_HELD_APART = frozenset(["vs", "versus", "against", "between", "minus"])
_BOUND = frozenset(["bound", "headed", "heading", "destined", "left", "leaving"])
_LEFT, _REACHED = (
    frozenset(stem(w) for w in ws)
    for ws in (
        ["origin", "departure", "start", "starting", "source", "sending", "sender", "pickup", "from"],
        ["destination", "dest", "arrival", "end", "target", "receiving", "recipient", "delivery", "dropoff", "to"],
    )
)
"""What the place is called that something leaves, and that it reaches."""
_ROLES = (_LEFT, _REACHED, frozenset(stem(w) for w in ["manager", "boss", "supervisor", "superior"]))
_ENDS = {"from": _LEFT, "to": _REACHED}
_WHERETO = frozenset(stem(w) for w in ["destination", "origin"])
_SPELLS = frozenset(
    stem(w)
    for w in [
        "days",
        "hours",
        "minutes",
        "weeks",
        "months",
        "nights",
        "duration",
        "length",
        "runtime",
        "time",
        "stay",
        "seconds",
    ]
)
"""What a column of how long something lasted is called by."""
_LASTING = tuple(stem(w) for w in ["duration", "runtime", "length", "minutes", "hours", "time"])
_BANDED = frozenset(
    ["band", "bands", "bracket", "brackets", "bin", "bins", "group", "groups", "range", "ranges", "class", "classes"]
)
_SOUGHT = stems("requested asked sought applied quoted bid tendered")
_TAKING = frozenset(["took", "take", "takes", "taking", "lasted", "last", "lasts", "lasting", "needed", "ran", "open"])
_FIRST = {
    ("first",): True,
    ("very", "first"): True,
    ("last",): False,
    ("very", "last"): False,
    ("most", "recent"): False,
    ("most", "recently"): False,
    ("latest",): False,
}
_DATED = lexicon.Adjective(False, ("date",), False, False)
_MADE = (["make"], ["produce"], ["build"], ["shoot"], ["develop"], ["run"])
_MAKING = tuple(stem(w) for w in ["production", "budget", "cost", "making"])
_HELD = tuple(stem(w) for w in ["stock", "hand", "quantity", "inventory", "held"])
_MEANS = frozenset(stem(w) for w in ["method", "means", "mode", "channel", "via"])
_JOINING = tuple(stem(w) for w in ["since", "joined", "hire", "signup", "start", "opened"])
_LISTING = frozenset(["giving", "showing", "listing", "stating", "including", "with"])
_LISTED = _LISTING | {"and", ","}
_GLUED_UNIT = re.compile(r"(\d+(?:\.\d+)?)([A-Za-zµ°]{1,4})")
_WHEN = frozenset(["in", "on", "since", "before", "after", "during", "between", "last", "this", "from", "until"])
MOST = {
    "expensive": lexicon.Adjective(
        True, tuple(stem(w) for w in ["price", "cost", "fee", "rate", "fare", "total", "amount"]), False, False
    ),
    "valuable": lexicon.Adjective(True, tuple(stem(w) for w in ["value", "worth", "amount", "total"]), False, False),
    "profitable": lexicon.Adjective(True, ("profit",), False, False),
    "satisfied": lexicon.Adjective(True, tuple(stem(w) for w in ["satisfaction", "rating", "score"]), False, False),
    "productive": lexicon.Adjective(True, tuple(stem(w) for w in ["output", "yield", "quantity"]), False, False),
    "active": lexicon.Adjective(True, (), True, False),
}
_OPERATING = frozenset(category for found in lexicon.phrases().values() for category, _ in found) | {
    "SUP",
    "COMP",
    "STATE",
    "N",
}


_COMPOUNDED = {
    "best": True, "highest": True, "top": True, "most": True, "biggest": True, "better": True,
    "worst": False, "lowest": False, "least": False, "poorest": False,
}  # fmt: skip
_WHO_COME_AND_GO = frozenset(
    ["employee", "staff", "worker", "colleague", "people", "person", "member", "customer", "client", "guest", "patient",
     "donor", "pupil", "student", "volunteer", "tenant", "player", "trainee", "personnel"]
)  # fmt: skip
"""What a table is called that lists people who join and leave, as it is spelled: requests are no requesters."""
_COMING_AND_GOING = frozenset(stem(w) for w in ["joined", "joiners", "left", "leave", "leavers", "hired", "started"])
_DOINGS_COUNTED = ("ments", "tions", "sions", "ances", "als")
_OFTEN = frozenset(
    ["visited", "booked", "used", "ordered", "borrowed", "bought", "watched", "played", "requested",
     "chosen", "picked", "rented", "hired", "attended", "viewed", "read", "loaned", "treated", "reported", "claimed"]
)  # fmt: skip


_JUDGED = frozenset(["rated", "scored", "ranked", "graded", "valued", "priced", "regarded", "reviewed", "marked"])
_PAID = frozenset(["paid", "spent", "refunded", "donated", "billed", "charged"])
"""What was done with money, which is told by how much it was and not by how often."""


def _is_participle_like(word: str) -> bool:
    return is_participle(word) or word in (
        "selling",
        "earning",
        "paying",
        "performing",
        "scoring",
        "spending",
        "bought",
        "chosen",
    )


_NOW = frozenset(
    tuple(p.split())
    for p in (
        "now",
        "right now",
        "at the moment",
        "currently",
        "at present",
        "presently",
        "today",
        "these days",
        "as of today",
    )
)


def _without_signs(found: list[Edge]) -> list[Edge]:
    """What was spent is what went out, where the sign of an amount says so, and not the amount with its sign."""
    signed = {
        (e.start, e.end, key)
        for e in found
        if e.category == "E" and isinstance(e.value, Measured) and isinstance(e.value.expr, m.Given) and e.score >= 0.95
        for key in m.columns_in(e.value.expr)
    }
    if not signed:
        return found
    return [
        e
        for e in found
        if e.category not in ("M", "MV") or not isinstance(e.value, Noun) or (e.start, e.end, e.value.key) not in signed
    ]


def _is_of_another_kind(noun: object, said: set[str]) -> bool:
    """True for a column of one kind of a pair, home or away, where the other is said."""
    own = {*name_parts(noun.key.column)} if isinstance(noun, Noun) and noun.key is not None else set()
    return any(own & whole and said & whole and not own & said & whole for whole in WHOLES)


_EXTREME = frozenset(["most", "least", "fewest", "more", "fewer"])
_SPELLING = frozenset(["star", "begi", "endi", "ends"])
_PARTICLES = frozenset(["out", "off", "up", "in", "back", "over", "down"])
_LATER = frozenset(
    ["due", "end", "ends", "until", "expiry", "expires", "expire", "deadline", "renewal", "planned", "valid", "best"]
)
_LAST = frozenset(["last", "latest", "previous", "recent"])
_FAMILIES = ("weight", "length", "time", "speed", "volume", "temperature", "power")
_STRETCH: dict[str, tuple[m.LengthUnit, float]] = {
    "minute": ("minutes", 1),
    "min": ("minutes", 1),
    "hour": ("hours", 1),
    "hr": ("hours", 1),
    "day": ("days", 1),
    "night": ("days", 1),
    "week": ("days", 7),
    "fortnight": ("days", 14),
    "month": ("months", 1),
    "year": ("years", 1),
    "yr": ("years", 1),
}


_WORKING = frozenset(["AGG", "CMP", "COUNT", "SHARE", "HOWMUCH", "DISTINCT", "SUP", "MOST", "RANK", "DIFF", "GROWTH"])
"""What words for working out are, which say nothing where they are part of a column's whole name."""


def _works(word: str) -> bool:
    return word in lexicon.fillers() or _is_worked_by(word)


def _is_worked_by(word: str) -> bool:
    return any(category in _WORKING for category, _ in lexicon.phrases().get((word,), ()))


def _is_in_a_name(edge: Edge, whole: list[Edge], tokens: list[Token]) -> bool:
    """True for a kind or rows said by a part of a value that is written as a name: the hall of Main Hall."""
    if edge.category not in ("C", "T", "M", "D", "F") or isinstance(edge.value, Values):
        return False
    return any(
        w.start <= edge.start
        and edge.end <= w.end
        and w.end - w.start > edge.end - edge.start
        and (
            (edge.category == "C" and edge.score < _SURELY_CALLED)
            or all(t.text[:1].isupper() or t.lower in lexicon.fillers() for t in tokens[w.start : w.end])
        )
        for w in whole
    )


def _holds_in_row(stems: tuple[str, ...], wanted: tuple[str, ...]) -> bool:
    return any(stems[at : at + len(wanted)] == wanted for at in range(len(stems) - len(wanted) + 1))


def _is_held_against_money(tokens: list[Token], at: int) -> bool:
    """True where the next words say that something is over or under a sum of money."""
    ahead = tokens[at : at + 5]
    sum_of_money = next((i for i, t in enumerate(ahead) if t.money), 0)
    return sum_of_money > 0 and all(t.lower in _UP_TO_MONEY for t in ahead[:sum_of_money])


def _is_inside(edge: Edge, whole: list[Edge]) -> bool:
    """True for a part of a value whose whole stands here: the show of no show."""
    value = edge.value
    return (
        isinstance(value, Values)
        and value.partly
        and any(
            w.start <= edge.start
            and edge.end <= w.end
            and isinstance(w.value, Values)
            and w.value.column == value.column
            and set(w.value.values) & set(value.values)
            for w in whole
        )
    )


def _lies_in(edge: Edge, wider: list[Edge]) -> bool:
    """True for a word of a time, such as the start in "since the start of 2024"."""
    return any(w.start < edge.start and edge.end <= w.end for w in wider)


def _lies_within(edge: Edge, wider: list[Edge]) -> bool:
    """True for a part of one of some wider spans."""
    return any(w.start <= edge.start and edge.end <= w.end and edge.end - edge.start < w.end - w.start for w in wider)


def _begins_with(column: str, table: str) -> bool:
    """True for a column that is called like its table, with or without more about it: life expectancy at birth."""
    one, two = ([p.removesuffix("s") for p in name_parts(name)] for name in (column, table))
    return bool(two) and one[: len(two)] == two


def _kept_in(table: str) -> str:
    """What a file is of, without the words for what keeps it: an egg record is of eggs."""
    parts = name_parts(table)
    own = [p for p in parts if stem(p) not in _KEEPING and stem(p) not in {stem(d) for d in _DIARIES}]
    return " ".join(own) if 0 < len(own) < len(parts) else table


def _hides_a_value(found: list[Edge]) -> Callable[[Edge], bool]:
    """A test of edges: a detached house is a house of that kind, and no other name for what tells which house it is."""
    values = [(e.start, e.end) for e in found if e.category == "V" and e.score >= 0.9]

    def hides(edge: Edge) -> bool:
        named = edge.category in ("C", "T", "D", "DT", "M") and edge.score < WHOLE_NAME - 0.09
        inside = (a >= edge.start and b <= edge.end and b - a < edge.end - edge.start for a, b in values)
        return named and any(inside)

    return hides


def _begins_or_lies_in(edge: Edge, wider: list[Edge]) -> bool:
    return any(w.start <= edge.start and edge.end <= w.end and w.end - w.start > edge.end - edge.start for w in wider)


def _is_period(tokens: list[Token], start: int, end: int) -> bool:
    """True for the days of "which days" and "days on which", which are no length of anything."""
    if tokens[end - 1].lower.rstrip("s") not in (*UNITS, "hour"):
        return False
    before = tokens[start - 1].lower if start else ""
    after = [t.lower for t in tokens[end : end + 2]]
    if end == start + 1 and before in ("which", "what", "whichever", "busiest", "quietest", "slowest"):
        return True
    return after in (["in", "which"], ["on", "which"]) or after[:1] in (["when"], ["where"], ["with"], ["had"])


def _is_held_against(before: Sequence[Token]) -> bool:
    """True where what comes next is a bound: longer than, within, at least."""
    return bool(before) and before[-1].lower in _BOUNDING


_BOUNDING = frozenset(
    [
        "than",
        "over",
        "under",
        "within",
        "above",
        "below",
        "least",
        "most",
        "exactly",
        "about",
        "for",
        "lasted",
        "last",
        "lasting",
        "takes",
        "took",
    ]
)


def _numbers_of_units(tokens: list[Token]) -> Iterator[tuple[int, int, float, int]]:
    """Where so many of a unit are said, how many, and where the unit stands: 10 kg, an hour, half a day, an hour and a half."""
    lowers = [t.lower for t in tokens]
    for place in range(1, len(tokens)):
        before = tokens[place - 1]
        number = 1.0 if before.lower in ("a", "an") else before.number
        if number is None:
            continue
        start, end = place - 1, place + 1
        if before.lower in ("a", "an", "half"):
            for words, part in _PARTS_OF_ONE:
                if tuple(lowers[max(start - len(words), 0) : start]) == words:
                    start, number = start - len(words), part
                    break
        if before.lower in ("a", "an") and lowers[end : end + 3] == ["and", "a", "half"]:
            end, number = end + 3, number + 0.5
        yield start, end, number, place


_PARTS_OF_ONE = (
    (("three", "quarters", "of"), 0.75),
    (("a", "quarter", "of"), 0.25),
    (("quarter", "of"), 0.25),
    (("half", "of"), 0.5),
    (("half",), 0.5),
)


def _stretch_of(token: Token) -> tuple[m.LengthUnit, float] | None:
    """The unit that a word of time is so many of, and how many: a week is seven days."""
    return _STRETCH.get(token.lower) or _STRETCH.get(token.lower.removesuffix("s"))


def _stretches(tokens: list[Token]) -> Iterator[Edge]:
    """Stretches of time, 48 hours or a week, as so many of a unit."""
    for start, end, number, place in _numbers_of_units(tokens):
        unit = _stretch_of(tokens[place])
        if unit is not None:
            yield Edge("DUR", start, end, (unit[0], number * unit[1]), 0.9)


def _are_alike(one: str, other: str) -> bool:
    return lexicon.related(one, other) or (one in _PARTS_OF and other in _PARTS_OF)


def _table_of(value: object) -> str:
    """The table that a terminal's value is of; empty for one that is of none."""
    match value:
        case Noun(key=ColumnKey(table=table)) | Noun(table=str(table)) | Values(column=ColumnKey(table=table)):
            return table
        case Measured(expr=m.Col(key=ColumnKey(table=table))):
            return table
        case _:
            return ""


def _sides(vocabulary: Vocabulary) -> Iterator[tuple[ColumnKey, ColumnKey]]:
    for table in vocabulary.catalogue.tables:
        named = [
            c
            for c in table.columns
            if c.type is Type.TEXT and c.role in (Role.CATEGORY, Role.PLACE, Role.PERSON) and len(c.values) > 3
        ]
        for one, two in itertools.combinations(named, 2):
            held, other = set(one.values), set(two.values)
            if len(held & other) >= 0.8 * len(held | other) and not _RATINGS & {
                stem(w) for v in held for w in v.split()
            }:
                yield ColumnKey(table.name, one.name), ColumnKey(table.name, two.name)


_RATINGS = frozenset(
    stem(w)
    for w in [
        "agree",
        "disagree",
        "good",
        "poor",
        "yes",
        "no",
        "never",
        "always",
        "high",
        "low",
        "satisfied",
        "likely",
        "average",
    ]
)
_BEHIND_A_LETTER = frozenset(
    ["or", "and", "by", "in", "on", "at", "for", "with", "vs", "versus", "than", "that", "have", "are", "is"]
)
_UTMOST = frozenset(["highest", "lowest", "maximum", "minimum", "max", "min", "earliest", "latest"])
_LEADERS = frozenset(stem(w) for w in ["manager", "supervisor", "boss", "lead", "leader", "reports"])
_LED_BY = (
    ("reports", "to"), ("report", "to"), ("reporting", "to"), ("managed", "by"), ("supervised", "by"), ("led", "by"),
    ("work", "for"), ("works", "for"), ("working", "for"), ("answers", "to"), ("answer", "to"), ("under",),
)  # fmt: skip


def _measured_by(edge: Edge) -> m.Expr | None:
    """What an edge of a measure or a column is worked out of; None for any other."""
    match edge.value:
        case Measured(expr=expr):
            return expr
        case Noun(key=ColumnKey() as key):
            return m.Col(key)
        case _:
            return None


def _listed_columns(found: list[Edge], tokens: list[Token]) -> set[tuple[int, int]]:
    """Where columns stand by their names in a list of three or more of them, or as what it is told by."""
    named = {e.start: e.end for e in found if e.category in ("C", "M") and e.score >= 0.97}
    listed = {(s, e) for s, e in named.items() if s and tokens[s - 1].lower in ("by", "per", "each")}
    for start in named:
        items, place = [start], named[start]
        while place < len(tokens) and tokens[place].lower in (",", "and", "&"):
            following = place + 1 + (tokens[place : place + 2][-1].lower == "and")
            if following not in named:
                break
            items.append(following)
            place = named[following]
        if len(items) > 2:
            listed.update((i, named[i]) for i in items)
    return listed


def _is_an_idea_split_by(tokens: list[Token], edge: Edge) -> bool:
    """True for a value that is only like a word behind by or per, which names what there is one of for each."""
    led = edge.start > 0 and tokens[edge.start - 1].lower in ("by", "per")
    return led and edge.category == "V" and edge.score < _SPELLED


def _left_the_house(tokens: Sequence[Token], found: Sequence[Edge]) -> Iterator[Edge]:
    """Who left the company, or joined us: the house itself, and nobody that the rows tell of."""
    for edge in found:
        if edge.category not in ("D", "STATE", "ACT") or tokens[edge.end - 1].lower not in _JOINED_OR_LEFT:
            continue
        end = edge.end + (edge.end < len(tokens) and tokens[edge.end].lower in ("the", "our"))
        if end < len(tokens) and tokens[end].lower in _THE_HOUSE:
            yield dataclasses.replace(edge, end=end + 1, score=edge.score + 0.05)


def _is_said_of_them(tokens: Sequence[Token], edge: Edge, rows: Container[tuple[int, int]]) -> bool:
    """True for a name of rows or of a column that would be put together from other rows and what was done."""
    called = edge.category in ("T", "C") and edge.end - edge.start == 2 and edge.score < 0.95
    return called and is_participle(tokens[edge.end - 1].lower) and (edge.start, edge.start + 1) in rows


def _less_sure(found: list[Edge], by: float, unlikely: Callable[[Edge], bool]) -> list[Edge]:
    """The edges, with those that are unlikely so much lower."""
    return [dataclasses.replace(e, score=e.score - by) if unlikely(e) else e for e in found]


def _paid_by_how_much(tokens: list[Token], found: list[Edge]) -> list[Edge]:
    """How much was paid asks for the amount paid, and not for what else there is of what was paid."""
    spans = {
        (e.start, e.end)
        for e in found
        if e.category in ("M", "MV")
        and e.score >= 0.75
        and e.start > 1
        and tokens[e.start - 1].lower in ("is", "was", "were", "been", "got")
        and tokens[e.start - 2].lower == "much"
    }
    return _less_sure(found, 0.3, lambda e: e.category == "STATE" and (e.start, e.end) in spans)


def _begins(tokens: list[Token], place: int) -> int:
    """Where a token begins in the question; -1 behind the last."""
    return tokens[place].start if place < len(tokens) else -1


def _grades(column: Column) -> tuple[str, ...]:
    """The letters from the best to the worst, where a column holds nothing else: A to G; empty for any other."""
    letters = sorted(str(v) for v in column.values)
    if column.type is not Type.TEXT or not 3 <= len(letters) <= 10 or column.distinct != len(letters):
        return ()
    in_a_row = "".join(letters) in "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
    return tuple(letters) if in_a_row and letters[0] in "AB" else ()


def _is_who(token: Token) -> bool:
    """True for a word for people, and not for what they do: borrowers, but not borrowed."""
    return token.stem in PERSON_WORDS and not token.lower.endswith(("ed", "ing"))


def typed_value(value: str, column: Column) -> str | int | float | bool:
    match column.type:
        case Type.BOOLEAN:
            return value.lower() in ("true", "yes", "y", "1")
        case Type.INTEGER:
            return int(float(value))
        case Type.FLOAT | Type.DECIMAL | Type.DURATION:
            return float(value)
        case _:
            return value


def _words_of_a_role(column: str) -> frozenset[str]:
    """What may say that rows are meant as a column points at them: destination, of the end station."""
    own = frozenset(name_parts(column))
    like = (words for words in (_LEFT, _REACHED) if words & {stem(p) for p in own})
    return own.union(*like) - {"from", "to"}


def categories_of(column: Column) -> list[tuple[str, float]]:
    """What a column can be in a question, each with a factor on how well it is named."""
    if column.type.is_time or column.type is Type.TIME:
        return [("D", 1.0)]
    if column.type is Type.BOOLEAN:
        return [("F", 1.0)]
    if column.role is Role.FLAG:
        return [("F", 1.0), ("M", 0.45)]
    if column.type.is_number:
        if column.role in (Role.IDENTIFIER, Role.LINK):
            # Whoever gave it another name may mean a number all the same.
            return [("C", 0.85), *([("M", 0.8)] if column.synonyms else [])]
        if column.role is Role.CODE:
            if name_parts(column.name)[-1:] in _CALLED_BY_NUMBER:
                # Patient numbers are never added up, nor is there an average one.
                return [("C", 1.0), ("CU", 0.95)]
            many = not is_yearly(column) and (column.distinct > 60 or bool(_DEALT & set(name_parts(column.name))))
            return [
                ("C", 1.0),
                ("M", 0.3 if is_yearly(column) else 0.8),
                *([("D", 0.95)] if is_yearly(column) else []),
                *([("CU", 0.95)] if many else []),
            ]
        few = column.type is Type.INTEGER and column.distinct <= 30
        # Tickets are counted, where a rating or a number of stars is a kind.
        counted = column.role is Role.QUANTITY and column.name.lower().endswith("s")
        return [("M", 1.0), *([("C", 0.5 if counted else 0.75)] if few else [])]
    # Whoever names what a key points at means that, not the key.
    return [("C", 0.85 if column.role is Role.LINK and _coded(column) else 1.0)]


def _words_of(names: Iterable[str]) -> frozenset[str]:
    """Every word that stands in some names, in small letters."""
    return frozenset(w for name in names for w in re.findall(r"[a-z]+", name.lower()))


def _coded(column: Column) -> bool:
    """True for keys that are codes, not names."""
    return any(any(ch.isdigit() for ch in v) for v in column.values[:5])


def _without_what_begins_with_a_measure(found: list[Edge], tokens: list[Token]) -> list[Edge]:
    """The edges without rows or kinds said in several words of which the first names a measure: litres in a milking."""
    measures = {e.start for e in found if e.category == "M" and e.end == e.start + 1 and e.score >= 0.97}
    small = lexicon.fillers()
    return [
        e
        for e in found
        if e.category not in ("T", "C")
        or e.start not in measures
        or not any(t.lower in small for t in tokens[e.start + 1 : e.end])
    ]


def _opens(edge: Edge, longer: Edge) -> bool:
    """True for the first words of what goes on behind them."""
    return edge.start == longer.start and edge.end < longer.end


def _values_before_states(found: list[Edge]) -> list[Edge]:
    """Open and shipped, where both are values of one column, are those and not what else such words may be true of."""
    spans: dict[ColumnKey, set[tuple[int, int]]] = {}
    for edge in found:
        if edge.category == "V" and edge.score >= 0.95 and not edge.value.partly:
            spans.setdefault(edge.value.column, set()).add((edge.start, edge.end))
    both = {span: key for key, told in spans.items() if len({start for start, _ in told}) > 1 for span in told}

    def is_otherwise(edge: Edge) -> bool:
        if edge.category != "STATE" or (edge.start, edge.end) not in both or not isinstance(edge.value, Part):
            return False
        said = edge.value.condition
        return not (isinstance(said, m.Is) and said.column == both[edge.start, edge.end])

    return [e for e in found if not is_otherwise(e)]


def _without_flags_of_their_rows(found: list[Edge]) -> list[Edge]:
    """The edges without yes-or-no columns that are only like what their own rows are called: visits are no "attended"."""
    rows = {(e.start, e.end): (e.value.table, e.score) for e in found if e.category == "T" and e.score >= 0.95}
    return [
        e
        for e in found
        if e.category != "F"
        or (e.start, e.end) not in rows
        or e.value.key is None
        or e.value.key.table != rows[e.start, e.end][0]
        or e.score > rows[e.start, e.end][1] - 0.15
    ]


def _asks_how_much(tokens: Sequence[Token], before: int) -> bool:
    """True where "how much" stands before a place."""
    words = [t.lower for t in tokens[:before]]
    return ("how", "much") in itertools.pairwise(words)


def _operating(words: tuple[str, ...]) -> Iterator[tuple[str, str]]:
    """The categories of an operating phrase, and what each says."""
    yield from lexicon.phrases().get(words, ())
    if (kind := lexicon.edits().get(words)) is not None:
        yield "EDIT", kind


_THERE = frozenset(
    [
        "work",
        "works",
        "working",
        "worked",
        "employed",
        "with",
        "us",
        "here",
        "for",
        "active",
        "around",
        "in",
        "service",
        "the",
        "company",
        "there",
        "on",
        "our",
        "books",
        "team",
    ]
)
_NOT_NOW = frozenset(["not", "aren't", "isn't", "don't", "doesn't", "arent", "isnt", "dont", "doesnt"])
_ANY_MORE = frozenset([("any", "more"), ("anymore",), ("any", "longer")])


def _past_those(words: list[str], place: int, those: frozenset[str]) -> int:
    """Where words that are none of those go on."""
    while place < len(words) and words[place] in those:
        place += 1
    return place


_LEADING_TO = frozenset(
    [
        "in",
        "on",
        "at",
        "for",
        "of",
        "to",
        "by",
        "from",
        "with",
        "but",
        "and",
        "or",
        "not",
        "the",
        "a",
        "who",
        "which",
        "that",
        "what",
        "something",
        "anything",
        "nothing",
        "we",
        "they",
        "us",
        "it",
    ]
)
"""Words that lead to what follows and are nothing that anyone does."""
_PLACED = frozenset([",", "abroad", "overseas", "nearby", "locally", "there", "here", "now", "today"])
_OF_WORK = frozenset(["STATE", "E", "M", "MV"])
_WORKING_PEOPLE = frozenset(
    stem(w) for w in ["people", "person", "staff", "employee", "men", "women", "worker", "who", "colleague"]
)
_NO_NAMES = frozenset(
    ["yet", "already", "ever", "never", "once", "again", "together", "include", "includes", "included", "including"]
)
"""Words that are like no name."""
_UNITS_SAID = frozenset(
    ["day", "days", "week", "weeks", "month", "months", "year", "years", "hour", "hours", "all", "are", "has"]
)
_SPLITTING = frozenset(["counted", "grouped", "split", "sorted", "listed", "ranked", "ordered", "broken", "divided"])
