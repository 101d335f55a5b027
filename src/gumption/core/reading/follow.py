"""Follow-ups: a short question as an edit of the meaning before it, a candidate like every other."""

from __future__ import annotations

import dataclasses
import datetime as dt
import itertools
from collections.abc import Iterator, Sequence

from gumption.core.reading import meaning as m
from gumption.core.reading.assemble import JUDGING, Assembler, Candidate, Draft, Sequence_, told_last
from gumption.core.reading.changes import changed, is_time, shifted
from gumption.core.reading.pieces import (
    Asking,
    Beside,
    Changed,
    Charted,
    Counted,
    Function,
    Grouped,
    Held,
    Joined,
    Marker,
    Measured,
    Noun,
    Part,
    Ratio,
    Shared,
    Shifted,
    Shown,
    Top,
    Versus,
    Worked,
)
from gumption.core.reading.refer import pointing
from gumption.core.reading.schema import KIND_ROLES, Nouns, tables_of
from gumption.core.reading.times import months_later
from gumption.core.reading.tokens import Token
from gumption.core.reading.vocabulary import name_parts

_OPENERS = frozenset(
    [
        "and",
        "only",
        "just",
        "now",
        "add",
        "also",
        "but",
        "same",
        "split",
        "sort",
        "with",
        "without",
        "plus",
        "or",
        "then",
        "who",
        "those",
        "them",
        "their",
        "it",
        "as",
        "by",
        "per",
        "for",
        "in",
        "of",
        "what",
        "how",
        "make",
        "put",
        "show",
        "which",
        "exclude",
        "leave",
        "drop",
        "no",
        "not",
        "the",
        "ones",
        "any",
        "instead",
    ]
)
_ADDED = frozenset(["add", "include", "plus"])
_BESIDE = _ADDED | frozenset(["also", "too", "beside", "alongside", "put"])
"""What says that a value comes to the one before, and does not take its place."""
_OTHERS = frozenset(["rest", "others", "other", "everyone", "everybody"])
_AGAINST = frozenset(["against", "versus", "vs", "compared", "compare"])
_STATES = frozenset(["status", "state", "stage", "phase", "progress"])
_THOSE = frozenset(["them", "those", "they", "these"])
_AGAIN = frozenset(["same", "likewise", "redo", "repeat", "ditto", "again"])
_OF_ANY_YEAR = frozenset(["every", "each", "any", "all", "always", "overall"])
_POINTING = frozenset(
    [
        "those",
        "them",
        "they",
        "these",
        "their",
        "it",
        "its",
        "ones",
        "that",
        "each",
        "instead",
        "too",
        "also",
        "same",
        "there",
    ]
)


def edits(
    assembler: Assembler, earlier: m.Ask, before: m.Ask | None, sequence: Sequence_, tokens: Sequence[Token]
) -> Iterator[Candidate]:
    """Every way in which the pieces change the question before; `before` is the one before that."""
    words = [t.lower for t in tokens if t.kind != "symbol"]
    leaning = (
        0.3 * bool(words and words[0] in _OPENERS) + 0.45 * bool(pointing(words, _POINTING)) + 0.3 * (len(words) <= 5)
    )
    # Told of those that it counts, the question is still the same.
    same = (earlier, _of_what_it_counts(earlier))
    for adds in (False, True):
        draft = Draft.of_edges(sequence.edges, tokens)
        draft.items = tuple((i, v.noun if isinstance(v, Shown) else v) for i, v in draft.items)
        ask = _Edit(assembler, earlier, before, draft, adds, words).apply()
        if ask is None:
            continue
        asks = bool({"who", "where", "when"} & {*draft.asks()})
        if ask in same and "who" in draft.asks() and pointing(words):
            nouns = assembler.nouns
            above = (link.other for link in nouns.catalogue.parents(earlier.head))
            person = next((p for t in (earlier.head, *above) if (p := nouns.person(t, buys=False)) is not None), None)
            # Who has them: each of whom it is told on the same rows.
            ask = m.Ask(earlier.head, earlier.where, groups=(person,)) if person is not None else ask
        if ask in same and any(v.kind == "gap" for _, v in draft.of(Marker)):
            continue
        if ask in same and (asks or not all(isinstance(v, (Marker, Asking)) for _, v in draft.items)):
            unknown = any(c.noun.unknown for _, c in draft.of(Counted))
            if asks or unknown or any(i not in draft.used for i, _ in draft.items):
                # Who has them, where that changes nothing, was not understood.
                continue
            draft.cost("as it was", 0.7)
        draft.features["leans on the question before"] = 0.35 + leaning
        if earlier.limit is not None and ask.limit is not None and ask.order != earlier.order:
            if pointing(words):
                # How many visits they had is asked of those five, and not of the five with most visits.
                draft.cost("ranked anew", 0.9)
        yield from assembler.finished([(ask, draft)], sequence, tokens, follows=True)


def _of_what_it_counts(ask: m.Ask) -> m.Ask:
    """What only a number was worked out of, as what the question is of: how many were dogs, and what did they cost."""
    match ask.quantities:
        case (m.Aggregated(where=where) as one,) if where and not ask.groups and one.table in (None, ask.head):
            return ask.but(where=(*ask.where, *where), quantities=(dataclasses.replace(one, where=()),))
        case _:
            return ask


_ROSE = frozenset(["rose", "risen", "grew", "grown", "increased", "gained", "climbed", "improved", "changed", "moved"])
_FELL = frozenset(["fell", "fallen", "dropped", "drop", "declined", "decreased", "shrank", "lost", "sank", "worsened"])


class _Edit:
    def __init__(
        self,
        assembler: Assembler,
        earlier: m.Ask,
        before: m.Ask | None,
        draft: Draft,
        adds: bool,
        words: list[str],
    ) -> None:
        self.before = before
        self.assembler, self.nouns = assembler, assembler.nouns
        self.earlier, self.draft, self.adds, self.words = earlier, draft, adds, words
        self.also = bool(
            {"add", "also", "too", "next", "beside", "alongside", "plus", "include", "put", "with", "well"} & set(words)
        )
        splits = {"split", "break", "broken", "divide", "divided"} & set(words)
        self.instead = bool({"instead", "rather", "make"} & set(words)) or ("now" in words and not splits)

    def apply(self) -> m.Ask | None:
        draft, ask = self.draft, self.earlier
        if _THOSE & set(self.words):
            ask = _of_what_it_counts(ask)
        if draft.of(Versus):
            held = self._held_against(ask)
            if held is None:
                return None
            ask = held
        elif (apart := self._against_the_rest(ask)) is not None:
            return apart
        ask = self._rows_behind(ask)
        each = bool({"each", "every", "same"} & set(self.words))
        for i, change in draft.of(Changed):
            if change.kind == "rows" and ask.quantities:
                ask = self._listed(ask.but(groups=(), order=(), limit=None), draft.asks())
                draft.used.add(i)
                continue
            done = changed(ask, change, self.nouns, each=each, before=self.before)
            if done is not None:
                ask = done
                draft.used.add(i)
        ask = self._conditions(ask)
        for i, shift in draft.of(Shifted):
            moved = shifted(ask, shift)
            if moved is not None:
                ask = moved
                draft.used.add(i)
        shaped = self._quantities(ask)
        if shaped is None:
            return None
        ask = self._groups(shaped)
        ask = self._beside(ask)
        ask = self._columns(ask)
        ask = self._sorted(ask)
        for i, chart in draft.of(Charted):
            draft.used.add(i)
            ask = ask.but(chart=chart.wish if ask.chart is None else ask.chart.beside(chart.wish))
        anew = ask.quantities != self.earlier.quantities and ask.groups != self.earlier.groups
        if anew and ask.chart == self.earlier.chart and not draft.of(Charted):
            # Another figure for each of something else is drawn as it fits.
            ask = ask.but(chart=None)
        for i, value in draft.items:
            if isinstance(value, (Marker, Asking)):
                draft.used.add(i)
        return ask

    # --- one held against another

    def _held_against(self, ask: m.Ask) -> m.Ask | None:
        """Mornings against evenings, this year against last: of what was worked out before."""
        versus = self.draft.of(Versus)
        pair = versus[0][1]
        if not ask.quantities or pair.one is None or pair.two is None:
            return None
        where = tuple(c for c in ask.where if not _replaces(pair.one, c) and not _replaces(pair.two, c))
        plain: list[m.Quantity] = [q for q in ask.quantities if not isinstance(q, (m.Between, m.Along))]
        made, groups, extra = self.assembler.versus(self.draft, versus, plain, list(ask.groups))
        return ask.but(quantities=tuple(made), groups=tuple(groups), where=(*where, *extra), order=(), limit=None)

    def _against_the_rest(self, ask: m.Ask) -> m.Ask | None:
        """Against the others: those of the last condition, and those that it left out."""
        others = bool(_OTHERS & set(self.words)) and bool(_AGAINST & set(self.words))
        told = [c for c in ask.where if isinstance(c, (m.Is, m.Compared, m.Says, m.Has))]
        plain = all(isinstance(v, (Noun, Marker)) for _, v in self.draft.items)
        if not others or not told or not ask.quantities or not plain:
            return None
        self.draft.used.update(i for i, _ in self.draft.items)
        kept = tuple(c for c in ask.where if c is not told[-1])
        return ask.but(where=kept, groups=(*ask.groups, m.Test(told[-1])), order=(), limit=None)

    # --- rows behind a number

    def _rows_behind(self, ask: m.Ask) -> m.Ask:
        asks = self.draft.asks()
        kinds = {type(v) for _, v in self.draft.items}
        said = set(self.words)
        # What would that be for dogs, the same thing I want for dogs: the same figure, and no rows.
        figure = {"that", "it", "this"} & said and not (_THOSE | {"which", "who", "list"}) & said
        lists = (bool(asks) or "who" in said) and not figure and ("same" not in said or "list" in said)
        if ask.lists and {"who", "whose"} & {*asks, *self.words}:
            return ask.but(shows=(*ask.shows, *self._person(ask.head, ["who"])))
        those = bool(_THOSE & said)
        if those and {"list", "who", "show"} & {*asks, *said}:
            # With their country is no condition there.
            self.draft.items = tuple((i, _to_show(v)) for i, v in self.draft.items)
            kinds = {type(v) for _, v in self.draft.items}
        told = those and bool({"list", "who"} & {*asks, *said})
        if told and ask.quantities and not ask.groups and not kinds & {Worked, Top, Grouped, Shared, Beside, Function}:
            # List them with their town and what they paid: the rows, with these beside them.
            return self._listed(ask, asks)
        if any(n.key is not None and not self.nouns.names_rows(n.key) for _, n in self.draft.of(Noun)):
            return ask
        if (
            not lists
            or not ask.quantities
            or ask.groups
            or kinds & {Counted, Worked, Measured, Top, Grouped, Shared, Beside, Function}
        ):
            return ask
        return self._listed(ask, asks)

    def _listed(self, ask: m.Ask, asks: list[str]) -> m.Ask:
        """The rows behind a number."""
        quantity = ask.quantities[0]
        if isinstance(quantity, m.Aggregated) and quantity.function == "distinct" and quantity.expr is not None:
            person = self._person(ask.head, asks) if "who" in (*asks, *self.words[:1]) else ()
            return m.Ask(ask.head, (*ask.where, *quantity.where), groups=(quantity.expr, *person))
        head, where = ask.head, ask.where
        if isinstance(quantity, m.Aggregated):
            head, where = quantity.table or head, (*where, *quantity.where)
            if quantity.function in ("max", "min") and quantity.expr is not None:
                order = m.Order(quantity.expr, quantity.function == "max")
                shows = self._person(head, asks)
                return m.Ask(head, where, shows=shows, order=(order,), limit=1)
        if isinstance(quantity, m.ShareOf):
            head, where = quantity.table or head, (*where, *quantity.condition)
        return m.Ask(head, where, shows=self._person(head, asks))

    def _person(self, head: str, asks: list[str]) -> tuple[m.Expr, ...]:
        if "where" in asks and (place := self.nouns.place(head)) is not None:
            return (place,)
        if "who" not in asks and "who" not in self.words and "whose" not in self.words:
            return ()
        if self.nouns.is_of_people(head) and (halves := self.nouns.split_name(head)):
            return halves
        person = self.nouns.who_rows_are(head)
        return (person,) if person is not None and person != self.nouns.naming(head) else ()

    # --- conditions

    def _conditions(self, ask: m.Ask) -> m.Ask:
        where = list(ask.where)
        parts = self.draft.of(Part)
        if self.draft.of(Shared):
            return ask
        for i, part in parts:
            self.draft.used.add(i)
            new = self._own(ask.head, part.condition)
            replaced = [c for c in where if _replaces(new, c) or (self.instead and _of_one_thing(new, c))]
            if part.kind == "state":
                # Closed ones are not open, though another column says so.
                replaced += [c for c in where if c not in replaced and self._tells_state(c)]
            if replaced and isinstance(new, (m.Within, m.PartIs)) and isinstance(new.time, m.EventTime):
                # Another time of what was asked about, by the date that it went by.
                by = [c.time for c in replaced if isinstance(c, (m.Within, m.PartIs))]
                new = dataclasses.replace(new, time=by[0]) if by else new
                new = self._in_its_year(new, replaced)
            if any(isinstance(c, m.Is) for c in replaced):
                self.draft.features["another value of a column"] = 0.25
            beside = next((c for c in replaced if isinstance(c, m.Is) and isinstance(new, m.Is)), None)
            said = set(self.words)
            more = _BESIDE & said and not (self.instead or _AGAIN & said)
            if beside is not None and isinstance(new, m.Is) and more:
                # Put France beside Spain: both, each told by itself; add France: the two together.
                new = m.Is(new.column, tuple(dict.fromkeys((*beside.values, *new.values))))
                group = m.Col(new.column)
                if ask.quantities and group not in ask.groups and not _ADDED & said:
                    ask = ask.but(groups=(*ask.groups, group))
            if isinstance(new, m.Not) and isinstance(new.item, m.Is):
                left = _less(where, new.item)
                if left is not None:
                    where = left
                    continue
            first = ask.quantities[0] if ask.quantities and ask.groups else None
            rows = any(n.table == ask.head for _, n in self.draft.of(Noun))
            match new:
                case m.Compared(op=op, left=side, right=m.Number() as right) if not rows:
                    if isinstance(first, m.Aggregated) and first.expr == side:
                        # Of averages by clinic only those above 15: groups, and not rows.
                        others = tuple(h for h in ask.having if h.quantity != first or h.op[0] != op[0])
                        ask = ask.but(having=(*others, m.Having(first, op, right)))
                        continue
                case _:
                    pass
            where = [c for c in where if c not in replaced]
            where.append(new)
        if any(p.kind == "time" for _, p in parts):
            last = {
                q: dataclasses.replace(q, where=tuple(c for c in q.where if not is_time(c)))
                for q in m.parts(ask.quantities)
                if isinstance(q, m.Aggregated) and m.at_end("max") in q.where
            }
            ask = m.replaced(ask, last) if last else ask  # type: ignore[assignment, arg-type]
        for i, held in self.draft.of(Held):
            if not isinstance(held.right, float):
                continue
            self.draft.used.add(i)
            if ask.groups and ask.quantities:
                most = m.Having(ask.quantities[0], held.op, m.Number(held.right))
                others = tuple(h for h in ask.having if h.quantity != most.quantity or h.op[0] != most.op[0])
                ask = ask.but(having=(*others, self.assembler.held_at(self.draft, i, most)))
            elif (expr := self.nouns.main_measure(ask.head)) is not None:
                where.append(m.Compared(held.op, expr, m.Number(held.right)))
        kept, having = self.assembler.counts_of_groups(tuple(where), list(ask.groups), ask.quantities)
        return ask.but(where=kept, having=(*ask.having, *having))

    def _in_its_year(self, new: m.Within | m.PartIs, replaced: list[m.Condition]) -> m.Within | m.PartIs:
        """And in May, after June 2024: May of that year, unless that of every year is meant."""
        spans = [c for c in replaced if isinstance(c, m.Within)]
        if not isinstance(new, m.PartIs) or len(new.numbers) != 1 or len(spans) != 1 or _OF_ANY_YEAR & set(self.words):
            return new
        low, high = spans[0].low, spans[0].high
        months = {"month": 1, "quarter": 3}.get(new.unit)
        if low is None or high is None or low.year != high.year or months is None:
            return new
        first = dt.date(low.year, (new.numbers[0] - 1) * months + 1, 1)
        return m.Within(new.time, first, months_later(first, months) - dt.timedelta(days=1))

    @staticmethod
    def _tells_state(condition: m.Condition) -> bool:
        """True for a value of a column that says how things stand."""
        return isinstance(condition, m.Is) and bool(_STATES & {*name_parts(condition.column.column)})

    def _own(self, head: str, condition: m.Condition) -> m.Condition:
        """What is said of rows above as said of the row itself, which belongs to one of them."""
        match condition:
            case m.Not(item=item):
                inner = self._own(head, item)
                return m.Not(inner) if inner is not item else condition
            case m.Has(rows=m.Rows(table=table, where=(only,)), op=">=", number=1):
                return only if self.nouns.catalogue.path(head, table) is not None else condition
            case m.All():
                return self.assembler.of_several(head, condition)
            case _:
                return condition

    # --- quantities

    def _quantities(self, ask: m.Ask) -> m.Ask | None:
        draft = self.draft
        found: list[m.Quantity] = []
        for i, value in draft.items:
            match value:
                case Worked(quantity=quantity):
                    told = self._in_unit(ask, quantity.expr) if isinstance(quantity, m.Aggregated) else None
                    found.append(told or quantity)
                    draft.used.add(i)
                case Joined(expr=expr, each=each):
                    found.append(self.nouns.level(expr) if each else self.nouns.aggregate(expr))
                    draft.used.add(i)
                case Counted() if ask.lists and (ask != self.earlier or self._stands_beside(ask, value)):
                    pass
                case Counted():
                    draft.used.add(i)
                    counted = self._counted(ask, value)
                    if counted is not None:
                        found.append(counted)
                case Ratio():
                    ratio = self.assembler.ratio(draft, value, [])
                    if ratio is None:
                        return None
                    found.append(ratio)
                    draft.used.add(i)
                case Measured(verb=True) if draft.of(Worked) or any(
                    isinstance(v, Measured) and not v.verb for _, v in draft.items
                ):
                    draft.used.add(i)
                case Measured() if draft.of(Counted):
                    draft.cost("beside a count", 0.15)
                    draft.used.add(i)
                case Measured(expr=expr) if (
                    self.words[:1] in (["per"], ["a"])
                    and len(draft.items) == 2
                    and (rated := self._for_each(ask, expr))
                ):
                    # Per night: what was added up, for each of those.
                    draft.used.add(i)
                    return rated
                case Measured(expr=expr) if not ask.lists and not draft.of(Top):
                    functions = draft.of(Function)
                    same = self._in_unit(ask, expr)
                    if same is not None and not functions:
                        found.append(same)
                    elif functions:
                        found.append(m.Aggregated(functions[0][1].function, expr))  # type: ignore[arg-type]
                        draft.used.add(functions[0][0])
                    else:
                        found.append(self.nouns.aggregate(expr))
                    draft.used.add(i)
                case Function() if not draft.of(Measured) and not draft.of(Worked):
                    changed = self._function(ask, value)
                    if changed is None:
                        return None
                    draft.used.add(i)
                    return changed
                case _:
                    pass
        shares = draft.of(Shared)
        if shares:
            return self._share(ask, shares[0])
        if not found:
            return ask
        each = "each" in self.words and bool(ask.groups)
        if ask.lists or (not ask.quantities and not draft.of(Grouped) and not self.also and not each):
            return m.Ask(ask.head, ask.where, tuple(found))
        more = bool(ask.groups) and self.words[:1] == ["and"]
        ask = _figures_apart(ask, found)
        if self.adds or more or (self.also and not self.instead):
            if self.adds and not self.also and not more:
                draft.cost("beside what was there", 0.3)
            return ask.but(quantities=tuple(dict.fromkeys((*ask.quantities, *found))))
        order = tuple(m.Order(found[0], o.descending) if o.by in ask.quantities else o for o in ask.order)
        if found == list(ask.quantities):
            return ask
        return ask.but(quantities=tuple(found), order=order)

    def _stands_beside(self, ask: m.Ask, counted: Counted) -> bool:
        """True for a count of what belongs to each of the rows that are listed, where it is asked for besides."""
        rows = counted.noun.table
        besides = self.also or {"each", "every"} & set(self.words)
        return bool(besides) and rows is not None and rows != ask.head

    def _for_each(self, ask: m.Ask, expr: m.Expr) -> m.Ask | None:
        """A sum over how many nights, hours or miles it was for."""
        first = ask.quantities[0] if len(ask.quantities) == 1 else None
        if not isinstance(first, m.Aggregated) or first.function not in ("sum", "count") or ask.lists:
            return None
        if self.nouns.function(expr) != "sum" or first.expr == expr:
            return None
        ratio = m.Combined("/", first, m.Aggregated("sum", expr, where=first.where))
        return ask.but(
            quantities=(ratio,),
            order=tuple(dataclasses.replace(o, by=ratio) if o.by == first else o for o in ask.order),
        )

    @staticmethod
    def _in_unit(ask: m.Ask, expr: m.Expr | None) -> m.Aggregated | None:
        """What was worked out, in the unit of an expression of the same column."""
        if not isinstance(expr, m.Arithmetic) or not isinstance(expr.right, m.Number) or expr.op not in "*/":
            return None
        own = (q for q in ask.quantities if isinstance(q, m.Aggregated) and q.expr is not None)
        same = next((q for q in own if q.expr == expr.left), None)
        return dataclasses.replace(same, expr=expr) if same is not None else None

    def _counted(self, ask: m.Ask, counted: Counted) -> m.Quantity | None:
        noun = counted.noun
        if noun == Noun() or noun.unknown or noun.table == ask.head:
            first = ask.quantities[0] if ask.quantities else None
            if isinstance(first, m.Aggregated) and first.function in ("count", "distinct"):
                return None
            if not ask.quantities and ask.groups:
                return (
                    m.Aggregated("distinct", ask.groups[0])
                    if not self.draft.of(Grouped) and noun.table is None
                    else self.nouns.counted(ask.head)
                )
            if isinstance(first, m.Aggregated) and isinstance(first.expr, m.Col) and noun.table is None:
                key = first.expr.key
                if key.table == ask.head and self.nouns.column(key).missing:
                    # How many were those that came to so much: the rows that have it.
                    return m.Aggregated("count", table=ask.head, where=(*first.where, m.Not(m.Missing(key))))
            return self.nouns.counted(ask.head)
        return self.assembler.count(self.draft, counted)

    def _function(self, ask: m.Ask, function: Function) -> m.Ask | None:
        totals = all(isinstance(q, m.Aggregated) and q.function == "sum" for q in ask.quantities)
        if function.function == "sum" and totals and ask.groups and not self.draft.of(Grouped):
            # The total, of what is a total for each already, is that of them all.
            return ask.but(groups=(), order=(), limit=None, per=0, across=False)
        made: list[m.Quantity] = []
        for quantity in ask.quantities:
            if (
                isinstance(quantity, m.Aggregated)
                and quantity.expr is not None
                and quantity.function not in ("count", "distinct")
            ):
                made.append(dataclasses.replace(quantity, function=function.function, percent=function.percent))  # type: ignore[arg-type]
        if not made:
            expr = self.nouns.main_measure(ask.head)
            if expr is None or not (ask.lists or function.function != "sum" or function.main):
                return None
            made = [m.Aggregated(function.function, expr, percent=function.percent)]  # type: ignore[arg-type]
            if ask.lists:
                return m.Ask(ask.head, ask.where, tuple(made))
        more = (self.adds or self.also) and not self.instead
        quantities = tuple(dict.fromkeys((*ask.quantities, *made) if more else made))
        order = tuple(m.Order(made[0], o.descending) if o.by in ask.quantities else o for o in ask.order)
        return ask.but(quantities=quantities, order=order)

    def _share(self, ask: m.Ask, share: tuple[int, Shared]) -> m.Ask | None:
        """The share of rows that meet a condition, among those that were asked about."""
        i, shared = share
        self.draft.used.add(i)
        parts = [(j, p) for j, p in self.draft.of(Part) if p.kind != "time"]
        condition = shared.condition
        if condition is None and parts:
            condition = parts[-1][1].condition
            self.draft.used.add(parts[-1][0])
        if condition is None:
            return self._as_share(ask)
        worked = m.ShareOf((condition,), ask.head)
        more = ask.groups and (self.adds or self.also) and not self.instead
        return ask.but(quantities=(*ask.quantities, worked) if more else (worked,))

    def _as_share(self, ask: m.Ask) -> m.Ask | None:
        if ask.groups and ask.quantities:
            return ask.but(quantities=tuple(m.Along(q, "share") for q in ask.quantities[:1]))
        filters = tuple(c for c in ask.where if not is_time(c))
        times = tuple(c for c in ask.where if is_time(c))
        first = ask.quantities[0] if ask.quantities else self.nouns.counted(ask.head)
        if not filters or not isinstance(first, m.Aggregated):
            return None
        if first.expr is None:
            return m.Ask(ask.head, times, (m.ShareOf(filters, first.table or ask.head),))
        if first.function == "sum":
            return m.Ask(ask.head, times, (m.ShareOf(filters, None, first.expr),))
        return None

    # --- groups

    def _groups(self, ask: m.Ask) -> m.Ask:
        groups: list[m.Expr] = []
        for i, group in self.draft.of(Grouped):
            each = self._of_each_row(ask, group)
            if each is not None:
                self.draft.used.add(i)
                return each
            expr = self.nouns.group(group.by) if isinstance(group.by, Noun) else group.by
            if expr is not None:
                groups.append(expr)
                self.draft.used.add(i)
        if not groups:
            return self._same_for(ask)
        if ask.lists or not ask.quantities:
            counted = self.nouns.counted(ask.head)
            return m.Ask(ask.head, ask.where, (counted,), tuple(groups))
        if {"differ", "vary", "different"} & set(self.words):
            # The most common breed, and whether that differs by clinic: that of each.
            first = 1 if ask.limit is not None and len(ask.groups) == 1 else 0
            groups = [g for g in groups if g not in ask.groups]
            return ask.but(groups=(*groups, *ask.groups), per=ask.per or len(groups) * first)
        stacked = any({"stacked", "whole", "grouped"} & set(c.wish.looks) for _, c in self.draft.of(Charted))
        stacked = stacked or bool({"stack", "stacked"} & set(self.words))
        across = any(g.across for _, g in self.draft.of(Grouped))
        crossed = (across or stacked) and len(ask.groups) == 1
        splits = crossed or ({"split", "break", "broken", "divided"} & set(self.words) and not self.instead)
        if self.adds or splits or ({"too", "also", "further", "each"} & set(self.words) and not self.instead):
            if self.adds and not self.also and not splits:
                self.draft.cost("beside what was there", 0.2)
            return ask.but(groups=tuple(dict.fromkeys((*ask.groups, *groups))), limit=None, per=0)
        order = tuple(o for o in ask.order if not isinstance(o.by, (m.Col, m.PartOf)))
        if any(isinstance(g, m.PartOf) for g in groups):
            # A line of time has all its periods, in their order.
            return ask.but(groups=tuple(groups), order=(), limit=None, per=0)
        return ask.but(groups=tuple(groups), order=order, limit=None if ask.per else ask.limit, per=0)

    def _of_each_row(self, ask: m.Ask, group: Grouped) -> m.Ask | None:
        """Per trip, of what the trips of each driver came to: what one of them comes to."""
        by = group.by
        if "per" not in self.words or not isinstance(by, Noun) or len(ask.quantities) != 1 or not ask.groups:
            return None
        rows = by.table or (by.key.table if by.key is not None and self.nouns.tells_rows(by.key) else None)
        first = ask.quantities[0]
        if not isinstance(first, m.Aggregated) or first.function != "sum" or tables_of(first.expr) != [rows]:
            return None
        mean = dataclasses.replace(first, function="mean")
        return ask.but(quantities=(mean,), order=tuple(m.Order(mean, o.descending) for o in ask.order))

    def _same_for(self, ask: m.Ask) -> m.Ask:
        """ "The same for the sites": a noun in place of the group."""
        same = any(isinstance(v, Marker) and v.kind == "same" for _, v in self.draft.items)
        if not same or not ask.groups:
            return ask
        for i, noun in self.draft.of(Noun):
            expr = self.nouns.group(noun)
            if expr is not None:
                self.draft.used.add(i)
                return ask.but(groups=(expr, *ask.groups[1:]))
        return ask

    def _beside(self, ask: m.Ask) -> m.Ask:
        for i, beside in self.draft.of(Beside):
            if beside.kind == "share_within" and (shared := self._share_of_each(ask)) is not None:
                self.draft.used.add(i)
                ask = shared
                continue
            if beside.kind == "share" and not ask.groups:
                shared = self._as_share(ask)
                if shared is None:
                    continue
                self.draft.used.add(i)
                ask = shared
                continue
            if not ask.quantities:
                continue
            self.draft.used.add(i)
            made = tuple(
                m.Along(q, beside.kind, beside.number) if not isinstance(q, m.Along) else q  # type: ignore[arg-type]
                for q in ask.quantities
            )
            groups = ask.groups
            if beside.kind in m.ALONG_TIME and not any(isinstance(g, m.PartOf) for g in groups):
                groups = (m.PartOf("month", m.EventTime()), *groups)
            ask = ask.but(quantities=made, groups=groups)
        return ask

    def _share_of_each(self, ask: m.Ask) -> m.Ask | None:
        """By card type, as a percentage of each type's loans: how many of each are so, as before."""
        filters = tuple(c for c in self.earlier.where if not is_time(c))
        first = self.earlier.quantities[0] if self.earlier.quantities else None
        counts = isinstance(first, m.Aggregated) and first.expr is None
        if not filters or not counts or not ask.groups:
            return None
        times = tuple(c for c in ask.where if is_time(c))
        return m.Ask(ask.head, times, (m.ShareOf(filters, first.table or ask.head),), ask.groups[:1])  # type: ignore[union-attr]

    # --- columns, order and limit

    def _columns(self, ask: m.Ask) -> m.Ask:
        shows = list(ask.shows)
        group = next((g for g in ask.groups if isinstance(g, m.Col)), None)
        told = any(pair == ("only", "where") for pair in itertools.pairwise(self.words))
        if "where" in self.draft.asks() and not told and pointing(self.words) and group is not None:
            place = self.nouns.place(group.key.table)
            if place is not None and place not in ask.groups:
                shows.append(place)
                self.draft.features["where they are"] = 0.6
        dates = any(isinstance(s, m.Col) and self.nouns.column(s.key).type.is_time for s in shows)
        if "when" in self.draft.asks() and ask.lists and not dates:
            time = self.nouns.catalogue.table(ask.head).time_column
            if time is not None:
                shows.append(m.Col(m.ColumnKey(ask.head, time.name)))
        for i, noun in self.draft.of(Noun):
            if i in self.draft.used or noun.unknown:
                continue
            if noun.table is not None:
                if noun.table == ask.head or ask.lists:
                    naming = self.nouns.naming(noun.table)
                    self.draft.used.add(i)
                    if noun.table != ask.head and naming is not None:
                        if self.nouns.catalogue.path(ask.head, noun.table) is None:
                            self.draft.used.discard(i)
                            continue
                        shows.append(naming)
                continue
            assert noun.key is not None
            column = m.Col(noun.key)
            known = [c for c in ask.where if _is_known_time(c, self.nouns)]
            if self.nouns.column(noun.key).type.is_time and known and ask.quantities and self.words[:1] == ["and"]:
                # How many have started, and finished: those of which that date is known instead.
                self.draft.used.add(i)
                ask = ask.but(where=(*(c for c in ask.where if c not in known), m.Not(m.Missing(noun.key))))
                continue
            if self.nouns.column(noun.key).type.is_time and self.draft.of(Counted) and ask.quantities:
                # How many of those replied: those of which that date is known.
                self.draft.used.add(i)
                ask = ask.but(where=(*ask.where, m.Not(m.Missing(noun.key))))
                continue
            if self._reaches(ask, noun.key.table):
                self.draft.used.add(i)
                if column in ask.groups:
                    continue
                if self._told_by_groups(ask, noun.key):
                    shows.append(column)
                else:
                    # By component, and priority: a component has bugs of every priority.
                    ask = ask.but(groups=(*ask.groups, column))
            elif not ask.lists and ask.quantities and not ask.groups and not self.nouns.column(noun.key).is_measure:
                ask = ask.but(groups=(column,))
                self.draft.used.add(i)
        if ask.lists:
            for i, counted in self.draft.of(Counted):
                each = (
                    () if i in self.draft.used else tuple(self.assembler.so_many_of_each(counted.noun.table, ask.head))
                )
                if each:
                    shows += each
                    self.draft.used.add(i)
            for i, measured in self.draft.of(Measured):
                if i not in self.draft.used:
                    if all(self._reaches(ask, t) for t in tables_of(measured.expr)):
                        shows.append(measured.expr)
                        self.draft.used.add(i)
        return ask.but(shows=tuple(dict.fromkeys(shows)))

    def _told_by_groups(self, ask: m.Ask, key: m.ColumnKey) -> bool:
        """True where each group, or row, has one value of a column."""
        if ask.lists or not ask.quantities:
            return True
        return self.assembler.is_told_of(ask, key.table) or self.nouns.column(key).role not in KIND_ROLES

    def _reaches(self, ask: m.Ask, table: str) -> bool:
        path = self.nouns.catalogue.path
        if ask.lists:
            return path(ask.head, table) is not None
        starts = {t for g in ask.groups for t in tables_of(g)}
        return bool(ask.groups) and (not ask.quantities or any(path(s, table) is not None for s in starts))

    def _sorted(self, ask: m.Ask) -> m.Ask:
        for i, top in self.draft.of(Top):
            self.draft.used.add(i)
            if (
                top.noun is not None
                and top.noun.key is not None
                and m.Col(top.noun.key) not in ask.groups
                and not ask.lists
            ):
                self.draft.used.discard(i)
            number = top.number if top.number is not None else 1
            by: m.Quantity | m.Expr | None = None
            if ask.quantities and ask.groups:
                by = told_last(ask.quantities)
                changes = [q for q in ask.quantities if isinstance(q, m.Between)]
                if changes and (moved := {*self.draft.words} & (_ROSE | _FELL)):
                    # Which one rose the most is told by the change, and not by what it came to.
                    least = bool({"least", "smallest"} & {*self.draft.words})
                    by, top = changes[0], dataclasses.replace(top, descending=bool(moved & _FELL) is least)
                if top.by is not None:
                    by = next((q for q in ask.quantities if isinstance(q, m.Aggregated) and q.expr == top.by), by)
            elif ask.lists:
                by = top.by or (ask.order[0].by if ask.order else None) or self.nouns.main_measure(ask.head)
            if by is not None:
                ask = ask.but(order=(m.Order(by, top.descending),), limit=number)
                if self.draft.says(i, JUDGING) and ask.quantities:
                    ask = self.assembler.judged(ask)
            else:
                self.draft.used.discard(i)
        order = self.assembler.order(self.draft, ask.quantities, ask.shows, ask.head)
        if order:
            if ask.limit is not None and not any(isinstance(v, Top) for _, v in self.draft.items) and ask.order:
                # What comes first is turned about, not which rows there are.
                if order[0].by != ask.order[0].by:
                    return ask.but(then=order)
            if ask.lists and isinstance(order[0].by, (m.Aggregated, m.Combined)):
                return ask
            return ask.but(order=order)
        return ask


def _is_known_time(condition: m.Condition, nouns: Nouns) -> bool:
    """True for rows on which a date stands."""
    match condition:
        case m.Not(item=m.Missing(column=key)):
            return nouns.column(key).type.is_time
        case _:
            return False


def _figures_apart(ask: m.Ask, found: Sequence[m.Quantity]) -> m.Ask:
    """The question with its figure told by its own rows, where another one of the same column comes beside it."""
    for given in (p for p in m.parts(tuple(found)) if isinstance(p, m.Given) and isinstance(p.condition, m.Is)):
        own = next(
            (c for c in ask.where if isinstance(c, m.Is) and c.column == given.condition.column),  # type: ignore[union-attr]
            None,
        )
        if own is not None:
            apart = m.replaced(ask.quantities, {given.of: m.Given(given.of, own)})
            return ask.but(where=tuple(c for c in ask.where if c is not own), quantities=apart)
    return ask


def _to_show(value: object) -> object:
    match value:
        case Part(condition=m.Not(item=m.Missing(column=key))):
            return Noun(key=key)
        case _:
            return value


def _less(where: Sequence[m.Condition], out: m.Is) -> list[m.Condition] | None:
    """The conditions without some of the values that one of them takes; None where none takes them and more."""
    for place, c in enumerate(where):
        if isinstance(c, m.Is) and c.column == out.column and set(out.values) < set(c.values):
            left = tuple(v for v in c.values if v not in out.values)
            return [*where[:place], m.Is(c.column, left), *where[place + 1 :]]
    return None


def _of_one_thing(new: m.Condition, old: m.Condition) -> bool:
    """True where two values tell of one thing, a beer by its code and a beer by its kind."""
    return isinstance(new, m.Is) and isinstance(old, m.Is) and new.column.table == old.column.table


def _replaces(new: m.Condition, old: m.Condition) -> bool:
    """True where a new condition is said in place of an old one: another value, another time."""
    if isinstance(new, (m.Within, m.PartIs)) and isinstance(old, m.Compared) and is_time(old):
        # The last year there is was meant where none was said.
        return isinstance(new.time, m.EventTime)
    if isinstance(new, (m.Within, m.PartIs)) and isinstance(old, (m.Within, m.PartIs)):
        return new.time == old.time or isinstance(new.time, m.EventTime)
    columns = m.columns_in(new)
    if isinstance(new, m.Is) and isinstance(old, m.Is):
        return new.column == old.column
    if isinstance(new, m.Not) and isinstance(new.item, m.Is) and isinstance(old, m.Is):
        # All but dogs is said in place of cats.
        return new.item.column == old.column
    if isinstance(new, m.Is) and isinstance(old, m.Not) and isinstance(old.item, m.Is):
        return new.column == old.item.column
    if isinstance(new, m.Compared) and isinstance(old, m.Compared):
        return new.left == old.left and new.op[0] == old.op[0]
    return bool(columns) and new == old
