"""What the question is about, and what it groups by: columns, things of a table, units of time."""

from __future__ import annotations

from gumption.core.model.types import Role, Type
from gumption.core.reading.frame import GroupKey, Unit
from gumption.core.reading.passes.base import Looking, NotUnderstood
from gumption.core.reading.vocabulary import ColumnKey

MOST_SCORES = 20


class Grouping(Looking):
    """What the question is about, and what it groups by: columns, things of a table, units of time."""

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
            if not column.is_measure:
                return True
            # A rating may group; a measure of many values, or one that something is ranked by, may not.
            ranked = any(self._is_op(i, "superlative") for i in range(place))
            return column.role is Role.SCORE and column.distinct <= MOST_SCORES and not ranked
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
