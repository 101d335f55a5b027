"""From a chain of links to a frame: word order and small words say what belongs to what."""

from __future__ import annotations

from dataclasses import dataclass, field

from gumption.core.model.catalogue import Catalogue, Column
from gumption.core.model.types import Role, Type
from gumption.core.plan.expressions import (
    Between,
    ColumnRef,
    Compare,
    Constant,
    DateFloor,
    DatePart,
    Expression,
    IsMissing,
    Negated,
    OneOf,
    TextMatch,
)
from gumption.core.reading.frame import Condition, Draft, Frame, GroupKey, Having, Measure, Order, Unit, tables_of_frame
from gumption.core.reading.lexicon import Operation, related
from gumption.core.reading.links import Link
from gumption.core.reading.times import Span
from gumption.core.reading.tokens import Token, stem
from gumption.core.reading.vocabulary import ColumnKey, Vocabulary, measure_kind, name_parts


class NotUnderstood(Exception):
    """This chain of links makes no frame; says why, for a person."""


@dataclass
class Interpretation:
    """A frame, how each link was used in it, and what counts against it."""

    frame: Frame
    roles: dict[int, str] = field(default_factory=dict)
    """What each link, by its place in the chain, became: measure, column, value, time, operation."""
    unused: list[int] = field(default_factory=list)
    penalty: float = 0.0


class Interpreter:
    """Reads one chain from left to right, in passes: conditions first, then order, groups, measures, and the rest."""

    def __init__(
        self,
        links: tuple[Link, ...],
        tokens: list[Token],
        vocabulary: Vocabulary,
        question: str,
        earlier: Frame | None = None,
    ) -> None:
        self.links, self.tokens, self.vocabulary, self.question = links, tokens, vocabulary, question
        self.earlier = earlier
        self.context = tables_of_frame(earlier)
        self.catalogue: Catalogue = vocabulary.catalogue
        self.draft = Draft()
        self.used: dict[int, str] = {}
        self.penalty = 0.0

    def interpret(self) -> Interpretation:
        self._subject()
        self._comparisons()
        self._values()
        self._missing_and_negated()
        self._groups()
        self._order()
        self._measures()
        self._remaining()
        self._times()
        self._finish()
        unused = [i for i in range(len(self.links)) if i not in self.used]
        return Interpretation(self.draft.frozen(), self.used, unused, self.penalty)

    # -- looking around ---------------------------------------------------------------------

    def _column(self, key: ColumnKey) -> Column:
        return self.catalogue.table(key.table).column(key.column)

    def _link(self, place: int) -> Link | None:
        return self.links[place] if 0 <= place < len(self.links) else None

    def _is_op(self, place: int, *kinds: str) -> bool:
        link = self._link(place)
        return link is not None and link.operation is not None and link.operation.kind in kinds

    def _operation(self, place: int) -> Operation:
        operation = self.links[place].operation
        assert operation is not None
        return operation

    def _free_column(self, place: int) -> ColumnKey | None:
        link = self._link(place)
        return link.column if link is not None and link.kind == "column" and place not in self.used else None

    def _numeric(self, key: ColumnKey | None) -> bool:
        return key is not None and self._column(key).type.is_number

    def _word_before(self, place: int) -> str:
        start = self.links[place].start
        return self.tokens[start - 1].lower if start else ""

    # -- passes -----------------------------------------------------------------------------

    def _subject(self) -> None:
        tables = [(i, link) for i, link in enumerate(self.links) if link.kind == "table"]
        for i, _ in tables:
            if self._is_op(i - 1, "count", "list") or (
                self._is_op(i - 2, "count", "list", "superlative") and i - 1 not in self.used
            ):
                self.draft.subject = self.links[i].table
                return
        grouped = [i for i, _ in tables if self._is_op(i - 1, "group") or self._word_before(i) in ("by", "per", "each")]
        plain = [link.table for i, link in tables if i not in grouped]
        if plain:
            self.draft.subject = plain[0]

    def _comparisons(self) -> None:
        for place, link in enumerate(self.links):
            operation = link.operation
            if operation is None or operation.kind not in ("compare", "between") or place in self.used:
                continue
            first = self._link(place + 1)
            if first is None or first.kind != "number" or first.number is None or first.start > link.end + 1:
                continue
            if operation.kind == "between":
                last = self._link(place + 2)
                after = place + 3
                if last is not None and last.operation is not None and last.operation.kind == "or":
                    last, after = self._link(place + 3), place + 4
                if last is None or last.number is None:
                    continue
                self._number_condition(place, after, "between", first.number, last.number, operation.hint)
                self._use("number", *range(place, after))
            elif operation.what == ">=" and first.number == 1 and self._partner_follows(place + 2):
                self._use("number", place, place + 1)
            else:
                self._number_condition(place, place + 2, operation.what, first.number, None, operation.hint)
                self._use("number", place, place + 1)
        for place, link in enumerate(self.links):
            if link.kind == "number" and place not in self.used and link.number is not None:
                self._bare_number(place, link.number)

    def _partner_follows(self, place: int) -> bool:
        """`at least one urgent ticket`: having such a row at all, which its own condition or its table says."""
        return any(link.kind == "table" and link.table != self.draft.subject for link in self.links[place : place + 2])

    def _bare_number(self, place: int, number: float) -> None:
        """`4 or more stars`, `rating 5`, `year 2007`: a number with a column beside it."""
        following = [
            self.tokens[i].lower for i in range(self.links[place].end, min(self.links[place].end + 2, len(self.tokens)))
        ]
        if (
            following[:1] in (["or"], ["and"])
            and following[1:]
            and following[1] in ("more", "above", "over", "better", "higher", "less", "fewer", "below", "under")
        ):
            op = ">=" if following[1] in ("more", "above", "over", "better", "higher") else "<="
            self._number_condition(place, place + 1, op, number, None, ())
            self._use("number", place)
            for after in range(place + 1, len(self.links)):
                if self.links[after].start < self.links[place].end + 2:
                    self._use("number", after)
            return
        key = self._free_column(place - 1)
        if (
            key is not None
            and self._column(key).type.is_number
            and self.links[place].start - self.links[place - 1].end <= 1
        ):
            self._add_number(key, "=", number, None)
            self._use("number", place)
            self._use("column", place - 1)

    def _number_condition(
        self, place: int, after: int, op: str, low: float, high: float | None, hint: tuple[str, ...]
    ) -> None:
        """Find what the number is held against: a column before, a thing counted after, or a hinted column."""
        following = self._link(after)
        if following is not None and after not in self.used and following.start <= self.links[after - 1].end + 2:
            if following.kind == "table" and following.table and self._counts_per_group(following.table, place):
                self._use("operation", after)
                self._counted_having(place, following.table, op, low)
                return
            key = self._free_column(after)
            if key is not None and self._counted_values(after, key):
                self._use("column", after)
                self.draft.measures.append(Measure("count", key))
                self.draft.having.append(Having(len(self.draft.measures) - 1, op, low))  # type: ignore[arg-type]
                return
            if key is not None and self._numeric(key) and not self._numeric(self._free_column(place - 1)):
                self._use("column", after)
                self._add_number(key, op, low, high)
                return
        for before in (place - 1, place - 2):
            key = self._free_column(before)
            if key is None or not self._numeric(key):
                continue
            aggregated = before > 0 and self._is_op(before - 1, "aggregate")
            if aggregated and (op != "between"):
                self._use("operation", before - 1)
                self._use("measure", before)
                operation = self.links[before - 1].operation
                assert operation is not None
                self.draft.measures.append(Measure(operation.what, key))  # type: ignore[arg-type]
                self.draft.having.append(Having(len(self.draft.measures) - 1, op, low))  # type: ignore[arg-type]
                return
            self._use("column", before)
            self._add_number(key, op, low, high)
            if self._free_column(after) == key:
                # The unit after the number names the same column again.
                self._use("column", after)
            return
        key = self._hinted(hint) or self._only_measure()
        if key is None:
            raise NotUnderstood("it is not clear which column the number is held against")
        self.penalty += 0.5
        self._add_number(key, op, low, high)

    def _counted_values(self, place: int, key: ColumnKey) -> bool:
        """`at least 100 ratings`: scores are counted, not added, where the word is plural and there is something to count them for."""
        plural = self.tokens[self.links[place].end - 1].lower.endswith("s")
        grouped = any(self._is_op(i, "group") for i in range(len(self.links))) or bool(
            self.earlier and self.earlier.groups
        )
        return plural and grouped and self._column(key).role is Role.SCORE

    def _counts_per_group(self, table: str, place: int) -> bool:
        """True where things of the table are counted for each of something else, named before."""
        return self.draft.subject not in (None, table) or self._noun_before(place, table) is not None

    def _noun_before(self, place: int, table: str) -> int | None:
        for at in range(place - 1, -1, -1):
            link = self.links[at]
            if link.kind == "table" and link.table != table:
                return at
            key = self._free_column(at)
            if key is not None and not self._numeric(key) and not self._column(key).type.is_time:
                return at
        return None

    def _counted_having(self, place: int, table: str, op: str, number: float) -> None:
        self.draft.measures.append(Measure("count", table=table))
        self.draft.having.append(Having(len(self.draft.measures) - 1, op, number))  # type: ignore[arg-type]
        noun = self._noun_before(place, table)
        if noun is not None:
            link = self.links[noun]
            self._use("group", noun)
            if link.column is not None:
                self._group_by_column(link.column)
            elif link.table is not None:
                self._group_by_table(link.table)
        elif self.draft.subject is not None:
            self._group_by_table(self.draft.subject)
        self.draft.subject = table

    def _add_number(self, key: ColumnKey, op: str, low: float, high: float | None) -> None:
        def constant(number: float) -> Constant:
            if number.is_integer():
                return Constant(type=Type.INTEGER, value=int(number))
            return Constant(type=Type.FLOAT, value=number)

        value = ColumnRef(name=key.column)
        expression: Expression
        if high is not None:
            expression = Between(value=value, low=constant(min(low, high)), high=constant(max(low, high)))
        else:
            expression = Compare(op=op, left=value, right=constant(low))  # type: ignore[arg-type]
        self.draft.conditions.append(Condition(key, expression))

    def _hinted(self, hint: tuple[str, ...]) -> ColumnKey | None:
        tables = [self.draft.subject] if self.draft.subject else [t.name for t in self.catalogue.tables]
        for concept in hint:
            for name in tables:
                for column in self.catalogue.table(name).columns:
                    parts = [stem(p) for p in name_parts(column.name)]
                    if (concept == "date" and column.type.is_time) or (
                        concept != "date" and column.type.is_number and any(related(stem(concept), p) for p in parts)
                    ):
                        return ColumnKey(name, column.name)
        return None

    def _only_measure(self) -> ColumnKey | None:
        if self.draft.subject is None:
            return None
        measures = [c for c in self.catalogue.table(self.draft.subject).columns if c.is_measure]
        return ColumnKey(self.draft.subject, measures[0].name) if len(measures) == 1 else None

    def _values(self) -> None:
        """Values, those of one column together; a column named just before its value says which it is."""
        chosen: dict[tuple[ColumnKey, bool], list[str]] = {}
        for place, link in enumerate(self.links):
            if link.kind == "value" and link.column is not None:
                negated = self._negated(place)
                chosen.setdefault((link.column, negated), []).extend(link.values)
                self._use("value", place)
                for beside in (place - 1, place + 1):
                    if self._free_column(beside) == link.column and not self._is_op(beside - 1, "group"):
                        self._use("column", beside)
            elif link.kind == "quoted":
                self._quoted(place, link)
        for (key, negated), values in chosen.items():
            options = tuple(Constant(type=Type.TEXT, value=v) for v in dict.fromkeys(values))
            expression: Expression = OneOf(value=ColumnRef(name=key.column), options=options)
            if len(options) == 1:
                expression = Compare(op="=", left=ColumnRef(name=key.column), right=options[0])
            self.draft.conditions.append(Condition(key, Negated(item=expression) if negated else expression, negated))

    def _negated(self, place: int) -> bool:
        """True where a negation stands before the value, with nothing but a column or other values between."""
        before = place - 1
        while before >= 0 and (
            self.links[before].kind == "value" or self._is_op(before, "or") or self._free_column(before)
        ):
            before -= 1
        if not self._is_op(before, "negate", "missing"):
            return False
        link = self.links[before]
        assert link.operation is not None
        if link.operation.kind == "missing" and self.tokens[link.start].lower not in ("no", "without"):
            return False
        self._use("operation", before)
        return True

    def _quoted(self, place: int, link: Link) -> None:
        for other, near in enumerate(self.links):
            if near.operation is not None and near.operation.kind == "contains":
                self._use("operation", other)
        subject = self.draft.subject
        key = next(
            (
                k
                for p in (place - 1, place - 2, place + 1)
                if (k := self._free_column(p)) and self._column(k).type is Type.TEXT
            ),
            None,
        )
        if key is not None:
            self._use("column", next(p for p in (place - 1, place - 2, place + 1) if self._free_column(p) == key))
        elif subject is not None and (naming := self.catalogue.table(subject).naming_column) is not None:
            key = ColumnKey(subject, naming.name)
        if key is None:
            raise NotUnderstood(f"it is not clear which column should contain “{link.text}”")
        match: Expression = TextMatch(how="contains", value=ColumnRef(name=key.column), pattern=link.text)
        negated = self._is_op(place - 1, "negate") or self._is_op(place - 2, "negate")
        self.draft.conditions.append(Condition(key, Negated(item=match) if negated else match, negated))
        self._use("value", place)

    def _missing_and_negated(self) -> None:
        for place in range(len(self.links)):
            if self._is_op(place, "missing") and place not in self.used:
                for beside in (place + 1, place - 1, place - 2):
                    key = self._free_column(beside)
                    link = self._link(beside)
                    if key is not None:
                        self.draft.conditions.append(Condition(key, IsMissing(value=ColumnRef(name=key.column))))
                        self._use("column", beside)
                        self._use("operation", place)
                        break
                    if (
                        link is not None
                        and link.kind == "table"
                        and link.table
                        and self.draft.subject is not None
                        and self._points_at(link.table, self.draft.subject)
                    ):
                        self.draft.presence.append((link.table, False))
                        self._use("operation", place, beside)
                        break
        for place, link in enumerate(self.links):
            key = self._free_column(place)
            if key is not None and self._column(key).type is Type.BOOLEAN and not self._is_op(place - 1, "group"):
                negated = self._is_op(place - 1, "negate", "missing") and place - 1 not in self.used
                if negated:
                    self._use("operation", place - 1)
                right = Constant(type=Type.BOOLEAN, value=not negated)
                self.draft.conditions.append(
                    Condition(key, Compare(op="=", left=ColumnRef(name=key.column), right=right))
                )
                self._use("value", place)
            if link.kind == "column" and self._is_op(place - 1, "present") and key is not None:
                self.draft.conditions.append(Condition(key, Negated(item=IsMissing(value=ColumnRef(name=key.column)))))
                self._use("column", place)
                self._use("operation", place - 1)

    def _groups(self) -> None:
        for place, link in enumerate(self.links):
            if link.operation is None or place in self.used:
                continue
            if link.operation.kind == "group":
                at, taken = place + 1, False
                while (not taken or self._connected(at)) and self._group_at(at):
                    taken = True
                    self._use("group", at)
                    at += 1
                    if self._is_op(at, "or") and self._groupable(at + 1):
                        self._use("operation", at)
                        at += 1
                if taken:
                    self._use("operation", place)
            elif link.operation.kind == "unit" and self._adverb(place):
                self._group_by_unit(link.operation.what)
                self._use("group", place)

    def _connected(self, place: int) -> bool:
        """True where a comma or an `and` joins the link to the one before it."""
        if self._is_op(place - 1, "or"):
            return True
        if not 0 < place < len(self.links):
            return False
        between = self.question[
            self.tokens[self.links[place - 1].end - 1].end : self.tokens[self.links[place].start].start
        ]
        return bool(between.strip(" ")) and set(between.lower().replace(",", " ").split()) <= {
            "and",
            "&",
            "then",
            "the",
        }

    def _adverb(self, place: int) -> bool:
        """`monthly visits`, `which month`: a unit that groups without a grouping word."""
        word = self.tokens[self.links[place].start].lower
        return (
            word.endswith("ly")
            or self.links[place].end - self.links[place].start >= 3
            or self._is_op(place - 1, "list")
            or self._word_before(place) in ("which", "what", "by", "per", "each", "every")
        )

    def _groupable(self, place: int) -> bool:
        link = self._link(place)
        if link is None or place in self.used:
            return False
        if link.kind == "column" and link.column is not None:
            column = self._column(link.column)
            return not (column.is_measure and column.role is not Role.SCORE)
        return link.kind == "table" or self._is_op(place, "unit")

    def _group_at(self, place: int) -> bool:
        if not self._groupable(place):
            return False
        link = self.links[place]
        if place and link.start > self.links[place - 1].end + 2:
            return False
        following = self._link(place + 1)
        if (
            link.table
            and following
            and following.column
            and following.column.table == link.table
            and following.start == link.end
            and self._groupable(place + 1)
        ):
            # "By customer segment": the table only says whose segment.
            self._use("group", place + 1)
            self._group_by_column(following.column)
        elif link.operation is not None:
            self._group_by_unit(link.operation.what)
        elif link.column is not None:
            self._group_by_column(link.column)
        elif link.table is not None:
            self._group_by_table(link.table)
        return True

    def _group_by_column(self, key: ColumnKey) -> None:
        column = self._column(key)
        relationship = next((r for r in self.catalogue.parents(key.table) if r.column == key.column), None)
        naming = self.catalogue.table(relationship.other).naming_column if relationship else None
        if column.role is Role.LINK and relationship is not None and naming is not None and naming.role is Role.NAME:
            # People name clinics by their names, not by the codes that link to them.
            self.draft.groups.append(GroupKey(ColumnKey(relationship.other, naming.name)))
            return
        unit: Unit | None = "day" if column.type is Type.TIMESTAMP else None
        self.draft.groups.append(GroupKey(key, unit))

    def _group_by_table(self, name: str) -> None:
        table = self.catalogue.table(name)
        naming = table.naming_column
        if naming is None:
            raise NotUnderstood(f"{name} has no column that names its rows")
        self.draft.groups.append(GroupKey(ColumnKey(name, naming.name)))
        if table.key is not None and naming.distinct < table.rows - naming.missing and table.key.name != naming.name:
            self.draft.groups.append(GroupKey(ColumnKey(name, table.key.name)))

    def _group_by_unit(self, unit: str) -> None:
        tables = self._mentioned_tables()
        for name in tables:
            table = self.catalogue.table(name)
            own = next((c for c in table.columns if c.type is Type.INTEGER and c.name.lower() == unit), None)
            dated = self._time_key(name, unit)
            if own is not None and (dated is None or table.time_column is None):
                self.draft.groups.append(GroupKey(ColumnKey(name, own.name)))
                return
            if dated is not None:
                if unit == "hour" and self._column(dated).type is Type.DATE:
                    continue
                self.draft.groups.append(GroupKey(dated, unit))  # type: ignore[arg-type]
                return
        raise NotUnderstood(f"no date was found to group by {unit}")

    def _time_key(self, table: str, unit: str = "day") -> ColumnKey | None:
        """The date that times mean for rows of a table: one that the question names, its own, or that of what it belongs to."""
        named = [
            link.column
            for link in self.links
            if link.kind == "column" and link.column and self._column(link.column).type.is_time
        ]
        for key in named:
            if key.table == table or self.catalogue.path(table, key.table) is not None:
                return key
        own = self.catalogue.table(table)
        if unit == "hour":
            stamped = next((c for c in own.columns if c.type is Type.TIMESTAMP), None)
            return ColumnKey(table, stamped.name) if stamped else None
        if own.time_column is not None:
            return ColumnKey(table, own.time_column.name)
        for relationship in self.catalogue.parents(table):
            if (
                found := self.catalogue.table(relationship.other).time_column
            ) is not None and relationship.other != table:
                return ColumnKey(relationship.other, found.name)
        return None

    def _mentioned_tables(self) -> list[str]:
        """Tables that the question is about, the measured and counted first."""
        found = [m.column.table if m.column else m.table for m in self.draft.measures]
        found += [
            link.column.table
            for link in self.links
            if link.kind == "column" and link.column and self._column(link.column).is_measure
        ]
        found += [link.table for link in self.links if link.kind == "table"]
        found += [self.draft.subject]
        found += [link.column.table for link in self.links if link.column]
        found += self.context
        if len(self.catalogue.tables) == 1:
            found.append(self.catalogue.tables[0].name)
        return list(dict.fromkeys(t for t in found if t))

    def _order(self) -> None:
        for place, link in enumerate(self.links):
            operation = link.operation
            if operation is None or place in self.used:
                continue
            if operation.kind == "superlative":
                self._superlative(place)
            elif operation.kind == "order":
                self._sorted(place)

    def _sorted(self, place: int) -> None:
        operation = self.links[place].operation
        assert operation is not None
        if operation.what in ("desc", "asc"):
            self._use("operation", place)
            self.draft.order = Order(
                measure=0,
                column=self.draft.order.column if self.draft.order else None,
                descending=operation.what == "desc",
            )
            return
        key = self._free_column(place + 1)
        if key is not None:
            falling = self._column(key).is_measure
            self.draft.order = Order(column=key, descending=falling)
            self._use("operation", place)
            self._use("column", place + 1)

    def _superlative(self, place: int) -> None:
        link = self.links[place]
        operation = link.operation
        assert operation is not None
        limit = 1
        for beside in (place + 1, place - 1):
            near = self._link(beside)
            if (
                near is not None
                and near.kind == "number"
                and beside not in self.used
                and near.number
                and near.number == int(near.number)
                and (near.start == link.end or near.end == link.start)
            ):
                limit = int(near.number)
                self._use("operation", beside)
                break
        else:
            if self._plural_after(place):
                limit = (
                    10
                    if self.tokens[link.start].lower
                    in ("top", "bottom", "biggest", "largest", "best", "worst", "highest", "lowest")
                    else 1
                )
        counted = self._number_before_noun()
        if limit == 1 and counted is not None:
            limit = counted
        self._use("operation", place)
        if operation.kind == "superlative" and operation.what == "count":
            self._most_of(place, limit, operation.descending)
            return
        after, aggregate = self._worked_out_after(place)
        target = self._link(after)
        if (
            target is not None
            and target.kind == "table"
            and target.table
            and (operation.what == "most" or (aggregate and aggregate.kind == "count"))
            and after not in self.used
        ):
            self._use("measure", after)
            self.draft.measures.insert(0, Measure("count", table=target.table))
            self._rank_groups(target.table, limit, operation.descending, exclude=after)
            return
        key = self._measure_after(place, operation.hint)
        if key is None and operation.what == "most":
            key = self._nearest_measure(place)
        if self.earlier and self.earlier.groups and not self._nearest_measure(place):
            # "top five" after an answer ranks what was worked out there.
            self.draft.order, self.draft.limit = Order(measure=0, descending=operation.descending), limit
            return
        if key is None:
            raise NotUnderstood(f"it is not clear by what “{link_text(self.tokens, link)}” is meant")
        if self._column(key).type.is_time and any(
            self._is_op(i, "list") and self._operation(i).what == "date" for i in range(place)
        ):
            # "When did the first X come in" wants the day alone.
            self._use_column(key)
            self.draft.measures.append(Measure("max" if operation.descending else "min", key))
            return
        self._rank_by(
            key,
            aggregate.what if aggregate and aggregate.kind == "aggregate" else None,
            place,
            limit,
            operation.descending,
        )

    def _worked_out_after(self, place: int) -> tuple[int, Operation | None]:
        """Where a superlative's measure begins, and the count or average said before it: `top clinics by number of visits`."""
        for at in range(place + 1, len(self.links)):
            if self._is_op(at, "aggregate", "count") and at not in self.used:
                self._use("operation", at)
                if self._is_op(at - 1, "group"):
                    self._use("operation", at - 1)
                return at + 1, self._operation(at)
        after = place + 1
        while self._link(after) is not None and (after in self.used or self._is_op(after, "list", "group")):
            after += 1
        return after, None

    def _number_before_noun(self) -> int | None:
        """`the three clinics with …`: how many of what is ranked."""
        for at, link in enumerate(self.links):
            following = self._link(at + 1)
            whole = link.kind == "number" and at not in self.used and link.number and link.number == int(link.number)
            if (
                whole
                and following is not None
                and following.start == link.end
                and following.kind in ("table", "column")
            ):
                self._use("operation", at)
                return int(link.number or 0)
        return None

    def _plural_after(self, place: int) -> bool:
        end = self.links[place].end
        return (
            end < len(self.tokens)
            and self.tokens[end].kind == "word"
            and self.tokens[end].lower.endswith("s")
            and self.tokens[end].lower not in ("is", "was", "has", "sales", "takings")
        )

    def _nearest_measure(self, place: int) -> ColumnKey | None:
        return next(
            (
                k
                for p in (*range(place + 1, len(self.links)), *range(place - 1, -1, -1))
                if self._numeric(k := self._free_column(p))
            ),
            None,
        )

    def _measure_after(self, place: int, hint: tuple[str, ...]) -> ColumnKey | None:
        """The column a superlative points at: `by X`, the next measure, or what the word itself hints at."""
        hinted = self._hinted(hint) if hint else None
        for after in range(place + 1, len(self.links)):
            key = self._free_column(after)
            if (
                key is not None
                and (self._numeric(key) or ("date" in hint and self._column(key).type.is_time))
                and not self._is_code(key)
            ):
                self._use("measure", after)
                for between in range(place + 1, after):
                    if self._is_op(between, "group") and between not in self.used:
                        self._use("operation", between)
                return key
        return hinted

    def _is_code(self, key: ColumnKey) -> bool:
        return self._column(key).role in (Role.CODE, Role.IDENTIFIER)

    def _rank_by(self, key: ColumnKey, function: str | None, place: int, limit: int, descending: bool) -> None:
        """Rows by a column of their own, or groups by an aggregate of it."""
        # A grouping word was already read; an aggregate said elsewhere belongs to the ranked column.
        if function is None:
            said = next((i for i in range(len(self.links)) if self._is_op(i, "aggregate") and i not in self.used), None)
            if said is not None:
                function = self._operation(said).what
                self._use("operation", said)
        subject = self._ranked_thing(place)
        self._use_column(key)
        if (
            not self.draft.groups
            and subject is None
            and limit == 1
            and function in ("max", "min", None)
            and self._bare_extreme(place)
        ):
            self.draft.measures.append(Measure("max" if descending else "min", key))
            return
        if (
            not self.draft.groups
            and (subject is None or (subject.table == key.table and subject.column is None))
            and function is None
        ):
            self.draft.subject = key.table
            self.draft.order, self.draft.limit = Order(column=key, descending=descending), limit
            return
        if self.draft.groups and subject is not None:
            self.draft.within = len(self.draft.groups)
            if subject.column is not None:
                self._group_by_column(subject.column)
            else:
                self._group_by_table(subject.table)
        elif not self.draft.groups and subject is not None:
            if (
                subject.column is not None
                and subject.table == key.table
                and self._is_naming(subject.column)
                and function is None
            ):
                self.draft.subject = key.table
                self.draft.shown.append(subject.column)
                self.draft.order, self.draft.limit = Order(column=key, descending=descending), limit
                return
            if subject.column is not None:
                self._group_by_column(subject.column)
            elif subject.table is not None:
                self._group_by_table(subject.table)
        kind = function or measure_kind(self._column(key))
        self.draft.measures.insert(0, Measure(kind, key))  # type: ignore[arg-type]
        self.draft.order, self.draft.limit = Order(measure=0, descending=descending), limit

    def _bare_extreme(self, place: int) -> bool:
        """`highest salary`, `what is the lowest price`: only the number is wanted."""
        nouns = any(
            link.kind == "table" or (link.kind == "column" and not self._numeric(link.column)) for link in self.links
        )
        return not nouns and not any(token.lower in ("who", "which") for token in self.tokens)

    def _is_naming(self, key: ColumnKey) -> bool:
        naming = self.catalogue.table(key.table).naming_column
        return naming is not None and naming.name == key.column

    def _ranked_thing(self, place: int) -> _Thing | None:
        """What is being ranked: the table or category nearest to the superlative, before it or after."""
        order = [*range(place + 1, len(self.links)), *range(place - 1, -1, -1)]
        for at in order:
            link = self.links[at]
            if at in self.used and link.kind != "table":
                continue
            if link.kind == "table" and link.table and self.used.get(at) != "measure":
                self._use("subject", at)
                return _Thing(link.table, None)
            if (
                link.kind == "column"
                and link.column
                and not self._numeric(link.column)
                and not self._column(link.column).type.is_time
            ):
                self._use("group", at)
                return _Thing(link.column.table, link.column)
            if self._is_op(at, "unit") and at < place:
                self._use("group", at)
                self._group_by_unit(self._operation(at).what)
                return None
        return None

    def _rank_groups(self, counted: str, limit: int, descending: bool, exclude: int) -> None:
        outer = len(self.draft.groups)
        if outer < 2:
            for at, link in enumerate(self.links):
                if at == exclude or self.used.get(at) == "measure":
                    continue
                if link.kind == "table" and link.table and link.table != counted:
                    self._use("group", at)
                    self._group_by_table(link.table)
                    break
                if link.kind == "column" and link.column and not self._numeric(link.column) and at not in self.used:
                    self._use("group", at)
                    self._group_by_column(link.column)
                    break
        if outer and len(self.draft.groups) > outer:
            self.draft.within = outer
        if not self.draft.groups:
            raise NotUnderstood("it is not clear what should be ranked")
        self.draft.subject = counted
        self.draft.order, self.draft.limit = Order(measure=0, descending=descending), limit

    def _most_of(self, place: int, limit: int, descending: bool) -> None:
        for at in (*range(place + 1, len(self.links)), *range(place - 1, -1, -1)):
            key = self._free_column(at)
            if key is not None and not self._column(key).is_measure:
                self._use("group", at)
                self._group_by_column(key)
                self.draft.measures.insert(
                    0, Measure("count", table=key.table if self.draft.subject is None else self.draft.subject)
                )
                self.draft.order, self.draft.limit = Order(measure=0, descending=descending), limit
                return
        raise NotUnderstood("it is not clear what should be counted")

    def _measures(self) -> None:
        for place, link in enumerate(self.links):
            operation = link.operation
            if operation is None or place in self.used:
                continue
            match operation.kind:
                case "aggregate":
                    self._aggregate(place, operation.what)
                case "count":
                    self._count(place)
                case "distinct":
                    self._distinct(place)
                case "share":
                    self._use("operation", place)
                    self.draft.windows.append("share")
                case "running":
                    self._use("operation", place)
                    self.draft.windows.append("running_total")
                case "change":
                    self._use("operation", place)
                    self.draft.windows.append(operation.what)  # type: ignore[arg-type]
                case "percent" if {"change", "share"} & set(self.draft.windows):
                    self._use("operation", place)
                    self.draft.windows = ["change_percent" if w == "change" else w for w in self.draft.windows]
                case "rank":
                    self._use("operation", place)
                    self.draft.windows.append("rank")
                    if self.draft.order is None:
                        self.draft.order = Order(measure=0)
                case "list":
                    self._use("operation", place)
                    if operation.what == "date":
                        self._show_date()
                case "chart" | "or":
                    self._use("operation", place)
                case _:
                    pass

    def _show_date(self) -> None:
        if any(link.column and self._column(link.column).type.is_time for link in self.links if link.kind == "column"):
            return
        key = next((k for t in self._mentioned_tables() if (k := self._time_key(t)) is not None), None)
        if key is not None:
            self.draft.shown.append(key)

    def _aggregate(self, place: int, function: str) -> None:
        keys: list[ColumnKey] = []
        percent = self._percent_before(place) if function == "percentile" else None
        at = place + 1
        while at < len(self.links) and (not keys or (function == "correlation" and len(keys) < 2)):
            key = self._free_column(at)
            if self._is_op(at, "count") and at not in self.used:
                self._use("operation", place)
                return
            if key is not None and self._numeric(key):
                keys.append(key)
                self._use("measure", at)
            at += 1
        if not keys:
            for before in range(place - 1, -1, -1):
                key = self._free_column(before)
                if key is not None and self._numeric(key):
                    keys.append(key)
                    self._use("measure", before)
                    break
        if not keys:
            if function == "sum" and any(link.kind == "table" for link in self.links):
                self._use("operation", place)
                self._count_subject()
                return
            raise NotUnderstood(f"no column of numbers was found for the {_SPOKEN.get(function, function)}")
        self._use("operation", place)
        if function == "correlation":
            if len(keys) < 2:
                raise NotUnderstood("a correlation needs two columns of numbers")
            self.draft.measures.append(Measure("correlation", keys[0], other=keys[1]))
            return
        self.draft.measures.append(Measure(function, keys[0], percent=percent))  # type: ignore[arg-type]
        # "average fee and cost" asks for both.
        last = next(i for i, link in enumerate(self.links) if link.column == keys[0] and self.used.get(i) == "measure")
        while self._is_op(last + 1, "or") and self._numeric(self._free_column(last + 2)):
            key = self._free_column(last + 2)
            self._use("operation", last + 1)
            self._use("measure", last + 2)
            self.draft.measures.append(Measure(function, key))  # type: ignore[arg-type]
            last += 2

    def _percent_before(self, place: int) -> float:
        """The 95 of `95th percentile`."""
        link = self._link(place - 1)
        if link is None or link.number is None or not 0 <= link.number <= 100:
            raise NotUnderstood("a percentile needs its number, such as the 90th")
        self._use("operation", place - 1)
        return link.number

    def _count(self, place: int) -> None:
        self._use("operation", place)
        distinct = self._is_op(place + 1, "distinct")
        at = place + 1
        if distinct:
            self._use("operation", at)
            at += 1
        while self._link(at) is not None and self.used.get(at) in ("value", "operation", "time"):
            at += 1
        link = self._link(at)
        if link is not None and link.kind == "table" and link.table and not distinct:
            self._use("subject", at)
            if not any(m.table == link.table for m in self.draft.measures):
                self.draft.measures.append(Measure("count", table=link.table))
            return
        if link is not None and link.kind == "table" and link.table:
            self._use("subject", at)
            self.draft.measures.append(Measure("count", table=link.table))
            return
        key = self._free_column(at)
        if key is not None and self._numeric(key) and self._column(key).role is Role.QUANTITY and not distinct:
            # "how many units": the quantity itself is the count.
            self._use("measure", at)
            self.draft.measures.append(Measure("sum", key))
            return
        if key is not None:
            self._use("measure", at)
            self.draft.measures.append(Measure("distinct", key))
            return
        self._count_subject()

    def _count_subject(self) -> None:
        tables = self._mentioned_tables()
        if not tables:
            raise NotUnderstood("it is not clear what should be counted")
        for at, link in enumerate(self.links):
            if link.kind == "table" and link.table == tables[0]:
                self._use("subject", at)
        self.draft.measures.append(Measure("count", table=tables[0]))

    def _distinct(self, place: int) -> None:
        key = self._free_column(place + 1)
        if key is not None:
            self._use("operation", place)
            self._use("group", place + 1)
            self.draft.groups.append(GroupKey(key))

    def _remaining(self) -> None:
        """Columns and tables that nothing claimed: measures where there are groups, else columns to show."""
        aggregate = bool(self.draft.measures or self.draft.windows)
        for place, link in enumerate(self.links):
            if place in self.used:
                continue
            if link.kind == "column" and link.column:
                self._remaining_column(place, link.column, aggregate)
            elif link.kind == "table" and link.table:
                measured = {m.column.table if m.column else m.table for m in self.draft.measures}
                if measured and link.table not in measured:
                    # Named, yet nothing is done with it: that must not pass for understood.
                    continue
                self._use("subject", place)
                if self.draft.groups and not self.draft.measures and not self._numbers_left(place):
                    self.draft.measures.append(Measure("count", table=link.table))
                elif self.draft.subject is None:
                    self.draft.subject = link.table
                elif link.table != self.draft.subject and not self.draft.measures and not self.draft.groups:
                    self._partner(place, link.table)

    def _points_at(self, table: str, other: str) -> bool:
        return any(r.other == other for r in self.catalogue.parents(table))

    def _partner(self, place: int, table: str) -> None:
        """`customers who have orders`, `owners that never had a visit`."""
        subject = self.draft.subject
        assert subject is not None
        path = self.catalogue.path(table, subject)
        if path is None or len(path) != 1:
            return
        start = self.links[place].start
        words = [t.lower for t in self.tokens[max(0, start - 4) : start]]
        self.draft.presence.append((table, not {"never", "no", "without", "not", "any"} & set(words)))

    def _numbers_left(self, place: int) -> bool:
        return any(self._numeric(self._free_column(i)) for i in range(len(self.links)) if i != place)

    def _remaining_column(self, place: int, key: ColumnKey, aggregate: bool) -> None:
        column = self._column(key)
        if (
            column.type.is_number
            and not self._is_code(key)
            and (self.draft.groups or self.draft.windows or self._whole_column(place))
            and not (self.draft.order and self.draft.order.column)
        ):
            self._use("measure", place)
            self.draft.measures.append(Measure(measure_kind(column), key))  # type: ignore[arg-type]
            return
        if aggregate and not self.draft.groups and not column.type.is_number and self._is_op(place - 1, "list"):
            self._use("group", place)
            self._group_by_column(key)
            return
        self._use("column", place)
        if self._means_when(key) or (aggregate and any(c.column == key for c in self.draft.conditions)):
            return
        if not aggregate:
            self.draft.shown.append(key)
        else:
            self.penalty += 0.6

    def _means_when(self, key: ColumnKey) -> bool:
        """True for a date that only says which date a span or a unit of time is of, such as `hired` in `hired in 2024`."""
        listing = any(self._is_op(i, "list") for i in range(len(self.links)))
        by_unit = any(group.unit and group.column == key for group in self.draft.groups)
        beside = any(
            link.kind == "time" and abs(i - at) == 1
            for i, link in enumerate(self.links)
            for at in [self._place_of(key)]
        )
        return self._column(key).type.is_time and (
            by_unit or (beside and not (listing and len(self._date_mentions(key)) > 1))
        )

    def _place_of(self, key: ColumnKey) -> int:
        return self._date_mentions(key)[0]

    def _date_mentions(self, key: ColumnKey) -> list[int]:
        return [i for i, link in enumerate(self.links) if link.column == key and link.kind == "column"]

    def _whole_column(self, place: int) -> bool:
        """`what is the income`, `income this year`: a column of amounts with nothing to list it for."""
        key = self.links[place].column
        listing = any(
            self._is_op(i, "list") and self.tokens[self.links[i].start].lower not in ("what", "give", "tell", "how")
            for i in range(place)
        )
        return (
            not listing
            and self.draft.subject is None
            and not self.draft.shown
            and key is not None
            and self._column(key).role.is_summed
        )

    def _times(self) -> None:
        for place, link in enumerate(self.links):
            if link.kind != "time" or link.span is None:
                continue
            key = self._dated(place)
            if key is None:
                raise NotUnderstood("no date was found for the time it names")
            self._use("time", place)
            self.draft.conditions.append(Condition(key, self._span_condition(key, link.span)))

    def _dated(self, place: int) -> ColumnKey | None:
        """The date column named nearest before the time, or the date of the rows in question."""
        for beside in (place - 1, place + 1, place - 2):
            link = self._link(beside)
            if link is not None and link.kind == "column" and link.column and self._column(link.column).type.is_time:
                self._use("column", beside)
                if link.column.table not in self._mentioned_tables()[:1]:
                    # A date of the rows in question is likelier meant than one of what they belong to.
                    self.penalty += 0.35
                    self.draft.doubtful = bool(self.draft.measures)
                return link.column
        for condition in self.earlier.conditions if self.earlier else ():
            if self._column(condition.column).type.is_time:
                return condition.column
        for table in self._mentioned_tables():
            key = self._time_key(table)
            if key is not None:
                return key
            year = next(
                (c for c in self.catalogue.table(table).columns if c.name.lower() == "year" and c.type is Type.INTEGER),
                None,
            )
            if year is not None:
                return ColumnKey(table, year.name)
        return None

    def _span_condition(self, key: ColumnKey, span: Span) -> Expression:
        column = self._column(key)
        value: Expression = ColumnRef(name=key.column)
        if column.type is Type.INTEGER:
            return self._year_condition(value, span)
        if span.part is not None:
            part = DatePart(part=span.part, value=value)
            options = tuple(Constant(type=Type.INTEGER, value=n) for n in span.numbers)
            return (
                Compare(op="=", left=part, right=options[0])
                if len(options) == 1
                else OneOf(value=part, options=options)
            )
        if column.type is Type.TIMESTAMP:
            value = DateFloor(unit="day", value=value)
        low, high = (
            None if d is None else Constant(type=Type.DATE, value=d.isoformat()) for d in (span.low, span.high)
        )
        if low is not None and high is not None:
            return Between(value=value, low=low, high=high)
        if low is not None:
            return Compare(op=">=", left=value, right=low)
        assert high is not None
        return Compare(op="<=", left=value, right=high)

    def _year_condition(self, value: Expression, span: Span) -> Expression:
        if span.part is not None:
            raise NotUnderstood("the table knows years only, not months or days")
        low, high = (None if d is None else Constant(type=Type.INTEGER, value=d.year) for d in (span.low, span.high))
        if low is not None and high is not None:
            return Compare(op="=", left=value, right=low) if low == high else Between(value=value, low=low, high=high)
        if low is not None:
            return Compare(op=">=", left=value, right=low)
        assert high is not None
        return Compare(op="<=", left=value, right=high)

    def _finish(self) -> None:
        draft = self.draft
        if draft.groups and not draft.measures and (draft.windows or (draft.order and draft.order.measure is not None)):
            self._count_subject()
        for at, link in enumerate(self.links):
            following = self._link(at + 1)
            if (
                self._is_op(at, "group")
                and at not in self.used
                and following is not None
                and self._numeric(following.column)
            ):
                raise NotUnderstood(
                    f"“{link_text(self.tokens, link)} {link_text(self.tokens, following)}” asks for a ratio, which cannot be read yet"
                )
        self._drop_own_key()
        draft.shown = [key for key in draft.shown if key not in {m.column for m in draft.measures}]
        if self._asks_for_values():
            draft.groups.append(GroupKey(draft.shown.pop()))
        grouped = any(self._is_op(i, "group") and i in self.used for i in range(len(self.links)))
        if grouped and not draft.measures:
            # "X by Y" wants something worked out for each Y; without it the words were likely read amiss.
            self.penalty += 0.9
        if draft.windows and not draft.groups and not self.context:
            raise NotUnderstood("a share or a change needs to know for each of what")
        if draft.having and not draft.groups:
            if draft.subject is None:
                raise NotUnderstood("a condition on a number needs to know for each of what")
            self._group_by_table(draft.subject)
        if not (draft.measures or draft.groups or draft.shown or draft.conditions or draft.order or draft.subject):
            raise NotUnderstood("nothing in it names a table, a column or a value")
        if draft.order and draft.order.measure is not None and not draft.measures and not self.context:
            draft.order = None

    def _drop_own_key(self) -> None:
        """`days lost per absence` of a table with one row an absence: each row is a group already."""
        measured = {m.column.table for m in self.draft.measures if m.column}
        if len(self.draft.groups) != 1 or self.draft.order or self.draft.having or self.draft.windows:
            return
        key = self.draft.groups[0].column
        column, rows = self._column(key), self.catalogue.table(key.table).rows
        if key.table in measured and column.distinct == rows and column.role is Role.IDENTIFIER:
            self.draft.groups = []

    def _asks_for_values(self) -> bool:
        """`list the warehouses`, `what genres are there`: the different values of one column, not the rows they stand on."""
        draft = self.draft
        if len(draft.shown) != 1 or draft.subject or draft.measures or draft.groups or draft.order or draft.presence:
            return False
        column = self._column(draft.shown[0])
        return (
            column.type in (Type.TEXT, Type.BOOLEAN)
            and column.role in (Role.CATEGORY, Role.LINK)
            and not any(c.column.table == draft.shown[0].table and self._is_naming(c.column) for c in draft.conditions)
        )

    def _use(self, role: str, *places: int) -> None:
        for place in places:
            self.used.setdefault(place, role)

    def _use_column(self, key: ColumnKey) -> None:
        for place, link in enumerate(self.links):
            if link.column == key and link.kind == "column":
                self._use("measure", place)


@dataclass(frozen=True)
class _Thing:
    table: str
    column: ColumnKey | None


_SPOKEN = {"mean": "average", "sum": "total", "deviation": "standard deviation"}


def link_text(tokens: list[Token], link: Link) -> str:
    """The words of a link as they were typed."""
    return " ".join(t.text for t in tokens[link.start : link.end])
