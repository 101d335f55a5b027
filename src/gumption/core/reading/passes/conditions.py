"""Conditions on rows and on worked-out numbers: comparisons, values, absences."""

from __future__ import annotations

from gumption.core.model.types import Role, Type
from gumption.core.plan.expressions import (
    Between,
    ColumnRef,
    Compare,
    Constant,
    Expression,
    IsMissing,
    Negated,
    OneOf,
    TextMatch,
)
from gumption.core.reading.frame import Condition, Having, Measure
from gumption.core.reading.links import Link
from gumption.core.reading.passes.base import NotUnderstood
from gumption.core.reading.passes.groups import Grouping
from gumption.core.reading.vocabulary import ColumnKey


class Conditions(Grouping):
    """Conditions on rows and on worked-out numbers: comparisons, values, absences."""

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
                self._group_by_noun_before(before - 1, "")
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
        if not self._group_by_noun_before(place, table) and self.draft.subject is not None:
            self._group_by_table(self.draft.subject)
        self.draft.subject = table

    def _group_by_noun_before(self, place: int, table: str) -> bool:
        """Group by what a condition on a worked-out number is of: `reasons with an average fee over 100`."""
        noun = self._noun_before(place, table)
        if noun is None:
            return False
        link = self.links[noun]
        self._use("group", noun)
        if link.column is not None:
            self._group_by_column(link.column)
        elif link.table is not None:
            self._group_by_table(link.table)
        return True

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
