"""Order and limits: superlatives, top N, sorting."""

from __future__ import annotations

from dataclasses import dataclass

from gumption.core.reading.frame import Measure, Order
from gumption.core.reading.lexicon import Operation
from gumption.core.reading.passes.base import NotUnderstood, link_text
from gumption.core.reading.passes.conditions import Conditions
from gumption.core.reading.vocabulary import ColumnKey, name_parts


@dataclass(frozen=True)
class _Thing:
    table: str
    column: ColumnKey | None


class Ranking(Conditions):
    """Order and limits: superlatives, top N, sorting."""

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
            if key is not None and self._rankable(key, hint) and not self._is_code(key):
                self._use("measure", after)
                for between in range(place + 1, after):
                    if self._is_op(between, "group") and between not in self.used:
                        self._use("operation", between)
                return key
        return hinted

    def _rankable(self, key: ColumnKey, hint: tuple[str, ...]) -> bool:
        """True for a number; where the word points at dates, such as oldest, only for a date or an age."""
        if "date" not in hint:
            return self._numeric(key)
        return self._column(key).type.is_time or (self._numeric(key) and "age" in name_parts(key.column))

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
        kind = function or self._column(key).default_aggregate
        self.draft.measures.insert(0, Measure(kind, key))  # type: ignore[arg-type]
        self.draft.order, self.draft.limit = Order(measure=0, descending=descending), limit

    def _bare_extreme(self, place: int) -> bool:
        """`highest salary`, `what is the lowest price`: only the number is wanted."""
        nouns = any(
            link.kind == "table" or (link.kind == "column" and not self._numeric(link.column)) for link in self.links
        )
        return not nouns and not any(token.lower in ("who", "which") for token in self.tokens)

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
