"""What is worked out, and what is made of columns and tables that nothing else claimed."""

from __future__ import annotations

from gumption.core.model.types import Role
from gumption.core.reading.frame import GroupKey, Measure, Order
from gumption.core.reading.lexicon import AGGREGATE_WORDS
from gumption.core.reading.passes.base import NotUnderstood
from gumption.core.reading.passes.ranking import Ranking
from gumption.core.reading.vocabulary import ColumnKey


class Measures(Ranking):
    """What is worked out, and what is made of columns and tables that nothing else claimed."""

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
            raise NotUnderstood(f"no column of numbers was found for the {AGGREGATE_WORDS.get(function, function)}")
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
            self.draft.measures.append(Measure(column.default_aggregate, key))  # type: ignore[arg-type]
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
        if not self._column(key).type.is_time:
            return False
        if any(group.unit and group.column == key for group in self.draft.groups):
            return True
        mentions = self._date_mentions(key)
        beside = any(link.kind == "time" and abs(i - mentions[0]) == 1 for i, link in enumerate(self.links))
        listing = any(self._is_op(i, "list") for i in range(len(self.links)))
        return beside and not (listing and len(mentions) > 1)

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
