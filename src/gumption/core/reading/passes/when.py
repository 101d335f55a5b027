"""Spans of time as conditions on the date that they mean."""

from __future__ import annotations

from gumption.core.model.types import Type
from gumption.core.plan.expressions import (
    Between,
    ColumnRef,
    Compare,
    Constant,
    DateFloor,
    DatePart,
    Expression,
    OneOf,
)
from gumption.core.reading.frame import Condition
from gumption.core.reading.passes.base import NotUnderstood
from gumption.core.reading.passes.measures import Measures
from gumption.core.reading.times import Span
from gumption.core.reading.vocabulary import ColumnKey


class When(Measures):
    """Spans of time as conditions on the date that they mean."""

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
